import { accessible, cell, choose, lookout, test, expect } from './fixtures'

test.describe('Rules', () => {
  test('each rule says for which intents; one that cannot match is removed; rules are made from intents', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/rules`)
    const rules = page.getByRole('grid', { name: 'Rules' })
    await expect(rules.getByRole('row')).toHaveCount(17)
    await accessible(page)
    await expect(rules.getByRole('row').filter({ hasText: 'Voice' })).toContainText(
      '2 tests · Voice keeps working with the fibre down',
    )
    // What stands in a row shortly is whole for the one that is chosen.
    await rules.getByRole('gridcell', { name: 'Admin desk' }).first().click()
    await expect(page.getByText('For: Management only from the admin desk. Hit by: ')).toBeVisible()
    await page.getByLabel('Rule 5, note').fill('The desk alone')
    await page.getByLabel('Rule 5, note').press('Tab')
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByLabel('Rule 5, note')).toHaveValue('Only the admin desk manages')
    await page.getByRole('button', { name: 'Rules from intents' }).click()
    const dialog = page.getByRole('dialog', { name: 'Rules from intents' })
    await expect(dialog.getByRole('row', { name: /^goes Instruments Tide-data server/ })).toBeVisible()
    await expect(dialog.getByRole('row', { name: /^stays/ })).toHaveCount(15)
    await dialog.getByRole('button', { name: 'Apply 15 rules' }).click()
    await expect(rules.getByRole('row')).toHaveCount(16)
    await expect(lookout(page).getByText('P02')).toHaveCount(0)
  })

  test('a rule is moved, its default turned, and the grid says what that opens', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/rules`)
    await choose(page, 'Through the gateway', 'accept')
    await expect(
      lookout(page)
        .getByRole('button', { name: /unasked$/ })
        .first(),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(lookout(page).getByRole('button', { name: /unasked$/ })).toHaveCount(0)
    await page.getByRole('gridcell', { name: '2', exact: true }).click()
    await page.getByRole('button', { name: /^Up\s?: Instruments deliver/ }).click()
    await expect(page.getByRole('grid', { name: 'Rules' }).getByRole('row').nth(1)).toContainText(
      'Instruments',
    )
    await page.getByRole('spinbutton', { name: 'Place' }).fill('9')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('grid', { name: 'Rules' }).getByRole('row').nth(9)).toContainText(
      'Instruments',
    )
  })

  test('what passes unasked, or does not pass, is mended by one rule that was tried before', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/rules`)
    const rules = page.getByRole('grid', { name: 'Rules' })
    await page.getByRole('gridcell', { name: '1', exact: true }).click()
    await page.getByRole('button', { name: /^Remove\s?: Guests/ }).click()
    await lookout(page)
      .getByRole('button', {
        name: 'Add a rule for “Guests reach the internet and nothing else” as number 16',
      })
      .click()
    await expect(rules.getByRole('row').nth(16)).toContainText('Guests')
    await expect(lookout(page).getByRole('button', { name: /^Add a rule for/ })).toHaveCount(0)
    await page.getByRole('gridcell', { name: '16', exact: true }).click()
    await cell(page, 'Rules', 'Voice keeps working', 4).dblclick()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('Calls, DNS, SSH')
    await page.keyboard.press('Enter')
    await lookout(page).getByRole('button', { name: 'Refuse Voice to Internet, SSH, first of all' }).click()
    await expect(rules.getByRole('row').nth(1)).toContainText('drop')
    await expect(lookout(page).getByRole('button', { name: /unasked$/ })).toHaveCount(0)
  })

  test('a schedule’s times are offered by half hours', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByRole('tab', { name: 'Services and times' }).click()
    await page.getByRole('button', { name: 'Add a schedule' }).click()
    await cell(page, 'Schedules', 'Office hours', 3).dblclick()
    await page.getByRole('option', { name: '18:30' }).click()
    await page.keyboard.press('Enter')
    await expect(cell(page, 'Schedules', 'Office hours', 3)).toHaveText('18:30')
  })

  test('a rule of office hours is judged at each time of the week', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByRole('tab', { name: 'Services and times' }).click()
    await page.getByRole('button', { name: 'Add a schedule' }).click()
    await cell(page, 'Schedules', 'Office hours', 1).dblclick()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('Mon-Fri, someday')
    await expect(
      page.getByRole('alert').filter({ hasText: 'is not days such as Mon-Fri, Sun' }),
    ).toBeVisible()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('Mon-Thu, Sat')
    await page.keyboard.press('Enter')
    await accessible(page)
    const pick = async (grid: string, text: string, column: number) => {
      await cell(page, grid, text, column).dblclick()
      await page
        .getByRole('grid', { name: grid })
        .getByRole('combobox', { name: 'When' })
        .selectOption('Office hours')
      await page.keyboard.press('Enter')
    }
    await page.getByRole('tab', { name: /^Rules/ }).click()
    await pick('Rules', 'Staff reach the servers', 5)
    await expect(
      lookout(page).getByText('Staff reach the servers. Does not pass: tcp 443 445, icmp.'),
    ).toBeVisible()
    // Meant in those hours alone, it is met.
    await page.getByRole('tab', { name: /^Intents \d/ }).click()
    await page.getByRole('button', { name: 'As a list' }).click()
    await pick('Intents', 'Staff reach the servers', 5)
    await expect(
      lookout(page).getByText('Staff reach the servers. Does not pass: tcp 443 445, icmp.'),
    ).toHaveCount(0)
    await page.getByRole('tab', { name: 'Services and times' }).click()
    await expect(cell(page, 'Schedules', 'Office hours', 4)).toHaveText('1 rule, 1 intent')
    await expect(page.getByRole('button', { name: 'Remove Office hours' })).toHaveCount(0)
    // A name of the registry and plain ports become services of the plan.
    await page.getByRole('tab', { name: /^Rules/ }).click()
    await cell(page, 'Rules', 'Staff reach the servers', 4).dblclick()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('Files, no-such-thing')
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: 'no-such-thing is no service of this plan, no name of IANA’s registry (such as' }),
    ).toBeVisible()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('Files, imaps/tcp, tcp 8080')
    await page.keyboard.press('Enter')
    await page.getByRole('tab', { name: 'Services and times' }).click()
    await expect(page.getByRole('row', { name: /^imaps\/tcp tcp 993 1 rule, 0 intents/ })).toBeVisible()
    await expect(page.getByRole('row', { name: /^tcp 8080 tcp 8080 1 rule/ })).toBeVisible()
    await page.getByRole('button', { name: /^Weather/ }).click()
    await page
      .getByRole('dialog', { name: 'Weather' })
      .getByRole('button', { name: 'Monday 08:00, Office hours' })
      .click()
    await expect(page.getByRole('button', { name: 'Weather Monday 08:00, Office hours' })).toBeVisible()
  })

  test('a pair of the intent grid is opened and set; what is meant and does not pass is found at once', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByRole('tab', { name: /^Intents \d/ }).click()
    const grid = page.getByRole('table', { name: 'Intent grid' })
    await expect(grid.getByRole('button', { name: 'Staff to Voice: nothing is meant' })).toHaveText('·')
    await expect(
      grid.getByRole('button', {
        name: 'Instruments to Gateway: DNS, Time, Ping, by a wider or narrower intent',
      }),
    ).toHaveText('3')
    await grid.getByRole('button', { name: 'Staff to Voice: nothing is meant' }).click()
    const pair = page.getByRole('region', { name: 'Staff to Voice' })
    await accessible(page)
    await pair.getByRole('radio', { name: 'named services' }).check()
    await pair.getByRole('checkbox', { name: 'HTTPS' }).check()
    await expect(grid.getByRole('button', { name: /^Staff to Voice: / })).toHaveText('2')
    await expect(lookout(page).getByText(/^Staff to Voice\. Does not pass: /)).toBeVisible()
    await pair.getByRole('radio', { name: 'everything' }).check()
    await expect(grid.getByRole('button', { name: 'Staff to Voice: everything is meant' })).toHaveText('all')
    await page.getByRole('tab', { name: 'As text' }).click()
    await expect(page.getByRole('textbox', { name: 'Intents as text' })).toContainText(
      /: staff -> voice: all # Staff to Voice/,
    )
    await page.getByRole('tab', { name: /^Intents \d/ }).click()
    await grid.getByRole('button', { name: /^Staff to Voice: / }).click()
    await pair.getByRole('radio', { name: 'nothing' }).check()
    await expect(grid.getByRole('button', { name: 'Staff to Voice: nothing is meant' })).toBeVisible()
    await page.keyboard.press('ArrowRight')
  })

  test('a group stands in a rule, a pair of ends has a default, and what passes is taken as intents', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByRole('tab', { name: 'Groups' }).click()
    await page.getByRole('button', { name: 'Add a group' }).click()
    const type = async (column: number, text: string) => {
      await page
        .getByRole('grid', { name: 'Groups' })
        .getByRole('row')
        .nth(1)
        .getByRole('gridcell')
        .nth(column)
        .dblclick()
      await page.keyboard.press('Control+A')
      await page.keyboard.type(text)
    }
    await type(0, 'Offices')
    await page.keyboard.press('Enter')
    await type(1, 'Staff, Nowhere')
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: 'Nowhere is no network, device, tunnel or peer of this plan, and no prefix' }),
    ).toBeVisible()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('Staff, Voice, 10.61.2.0/28')
    await page.keyboard.press('Enter')
    await accessible(page)
    await page.getByRole('button', { name: 'Add a default' }).click()
    const pairs = page.getByRole('grid', { name: 'Defaults of pairs' })
    await pairs.getByRole('gridcell', { name: 'every network' }).dblclick()
    await pairs.getByRole('combobox', { name: 'From' }).selectOption('Offices')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('grid', { name: 'Groups' })).toContainText('1 default')
    await expect(page.getByRole('button', { name: 'Remove Offices' })).toHaveCount(0)
    // Voice and two servers may do more on the internet than is meant.
    await expect(
      lookout(page)
        .getByRole('button', { name: /^Voice reach Internet|Voice.*unasked$/ })
        .first(),
    ).toBeVisible()
    await page.getByRole('tab', { name: /^Intents \d/ }).click()
    await page.getByRole('button', { name: 'From rules' }).click()
    const dialog = page.getByRole('dialog', { name: 'Intents from rules' })
    await expect(
      dialog.getByRole('row', { name: /^new Offices the internet all default of a pair/ }),
    ).toBeVisible()
    await dialog.getByRole('button', { name: 'Add 1 intent' }).click()
    await expect(lookout(page).getByRole('button', { name: /unasked$/ })).toHaveCount(0)
    await page.getByRole('tab', { name: 'As text' }).click()
    await expect(page.getByRole('textbox', { name: 'Intents as text' })).toContainText(
      /i-pair-pair: group group -> internet: all # default of a pair/,
    )
  })

  test('intents are typed as text; a wrong line is told with its column', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByRole('tab', { name: 'As text' }).click()
    const text = page.getByRole('textbox', { name: 'Intents as text' })
    await expect(text).toContainText(
      /i-voice: voice -> internet: calls, dns survives fibre # Voice keeps working/,
    )
    await text.fill('i-guests: guests => internet: all')
    await expect(page.getByRole('alert')).toContainText(
      'line 1, column 18: "=> internet: all" stands where "->" is wanted',
    )
    await expect(page.getByRole('button', { name: 'Apply these intents' })).toBeDisabled()
    await text.fill('i-guests: ')
    // What fits is offered.
    await page.keyboard.type('gue')
    await page.getByRole('option', { name: 'guests' }).click()
    await page.keyboard.type(' -> internet: all # Guests alone')
    await expect(text).toHaveText('i-guests: guests -> internet: all # Guests alone')
    await page.getByRole('button', { name: 'Apply these intents' }).click()
    await page.getByRole('tab', { name: /^Intents \d/ }).click()
    await page.getByRole('button', { name: 'As a list' }).click()
    await expect(page.getByRole('grid', { name: 'Intents' }).getByRole('row')).toHaveCount(2)
  })
})

test('a rule names a host that takes any lease: it gets an address for good, in the same step', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/rules`)
  const first = page.getByRole('grid', { name: 'Rules' }).getByRole('row').nth(1).getByRole('gridcell').nth(2)
  const before = await first.innerText()
  await first.dblclick()
  const list = page.getByRole('combobox', { name: 'From' })
  const hosts = await list.locator('option').allInnerTexts()
  expect(hosts).toContain('Ticket terminal')
  await list.selectOption('Ticket terminal')
  await page.keyboard.press('Enter')
  await expect(first).toHaveText('Ticket terminal')
  await page.goto(`/sites/${copy}/addresses`)
  await cell(page, 'Networks', 'Staff', 1).click()
  await expect(page.getByRole('grid', { name: 'Fixed addresses' })).toContainText('Ticket terminal')
  await page.goto(`/sites/${copy}/rules`)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(first).toHaveText(before)
})
