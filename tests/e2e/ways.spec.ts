import { accessible, cell, expect, lookout, test } from './fixtures'

test.describe('Uplinks', () => {
  test('says what a failure costs, plays it, and finds settings for a wish', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await expect(
      page
        .getByText(
          'When Fibre dies, traffic is on 5G after 11 to 16 s, 13.5 s on average. 75 to 80 s ' +
            'after it is well, traffic returns.',
        )
        .last(),
    ).toBeVisible()
    await accessible(page)
    await expect(
      page.getByRole('row', { name: /^Guests reach the internet and nothing else/ }),
    ).toContainText('down until Fibre is back')
    await expect(page.getByRole('row', { name: /^Voice keeps working with the fibre down/ })).toContainText(
      'works',
    )
    await page.getByLabel('Play at').selectOption('100×')
    await page.getByRole('button', { name: 'Play it' }).click()
    await expect(
      page.getByText(
        /Played: on 5G after \d+(\.\d)? s \(planned 11 s to 16 s\), back \d+(\.\d)? s after it was well\./,
      ),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Keep it as a proof record' }).click()
    await expect(page.getByText('Kept with the acceptance tests.')).toBeVisible()
    await page.getByRole('button', { name: 'Simulate' }).click()
    await expect(page.getByText(/alarms? in 3,000,000 rounds|± [\d,]+ rounds/)).toBeVisible()
    await page.getByLabel('Longest outage, s').fill('12')
    await page.getByLabel('Longest outage, s').press('Tab')
    await expect(
      lookout(page).getByRole('button', { name: 'Fibre: change-over later than asked' }),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Use it' }).click()
    await expect(
      lookout(page).getByRole('button', { name: 'Fibre: change-over later than asked' }),
    ).toHaveCount(0)
  })

  test('lines change places by their buttons, and the other becomes the spare', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('button', { name: 'Fibre later' }).click()
    await expect(page.getByRole('button', { name: '1 · 5G', exact: true })).toBeVisible()
    await expect(page.getByText('is not probed').first()).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('button', { name: '1 · Fibre', exact: true })).toBeVisible()
  })

  test('two lines of one order share what goes out; weights can follow the speeds', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('tab', { name: 'Standby and fate' }).click()
    await cell(page, 'Standby and fate', '5G', 1).dblclick()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('1')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('button', { name: '1 · Fibre, 50 % of new flows' })).toBeVisible()
    await lookout(page).getByRole('button', { name: 'Share by speed' }).click()
    // 500 and 80 Mb/s: ten tenths and two.
    await expect(page.getByRole('button', { name: '1 · Fibre, 83 % of new flows' })).toBeVisible()
    await accessible(page)
  })

  test('a port forward and a choice of line are added, typed and removed', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('tab', { name: /Port forwards/ }).click()
    await page.getByRole('button', { name: 'Add a forward' }).click()
    const forwards = page.getByRole('grid', { name: 'Port forwards' })
    await forwards.getByRole('gridcell', { name: '8443' }).dblclick()
    await page.keyboard.type('70000')
    await expect(page.getByRole('alert').filter({ hasText: '70000' })).toBeVisible()
    await page.keyboard.press('Control+A')
    await page.keyboard.type('9443')
    await page.keyboard.press('Enter')
    await expect(forwards.getByRole('gridcell', { name: '9443' })).toBeVisible()
    await expect(lookout(page).getByRole('button', { name: '1 port forward dies with Fibre' })).toBeVisible()
    // By the outside address nobody inside gets through before the forward says so, and then as far as the
    // rules let him.
    const inside = page.getByRole('row', { name: /^tcp 9443/ })
    await expect(inside).toContainText('nobody')
    await expect(inside).toContainText('Guests: the forward is for calls from outside alone')
    await forwards.getByRole('gridcell', { name: 'no', exact: true }).dblclick()
    await forwards.getByRole('combobox', { name: 'From inside' }).selectOption('too')
    await page.keyboard.press('Enter')
    await expect(inside).toContainText('Staff: some hosts tcp 9443')
    await expect(inside).toContainText('Guests: stopped by a rule')
    await forwards.getByRole('button', { name: /^Remove/ }).click()
    await expect(lookout(page).getByRole('button', { name: '1 port forward dies with Fibre' })).toHaveCount(0)
    await page.getByRole('tab', { name: /Who takes which line/ }).click()
    await expect(
      page.getByRole('gridcell', { name: 'Guests wait while the fibre is down', exact: true }),
    ).toBeVisible()
  })
})

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
    await dialog.getByRole('button', { name: 'Lay 15 rules' }).click()
    await expect(rules.getByRole('row')).toHaveCount(16)
    await expect(lookout(page).getByText('P02')).toHaveCount(0)
  })

  test('a rule is moved, its default turned, and the grid says what that opens', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByLabel('Default through the gateway').selectOption('accept')
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
    await page.getByRole('button', { name: /^WEATHER/ }).click()
    await page
      .getByRole('dialog', { name: 'Weather' })
      .getByRole('button', { name: 'Monday 08:00, Office hours' })
      .click()
    await expect(page.getByRole('button', { name: 'WEATHER Monday 08:00, Office hours' })).toBeVisible()
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
    await expect(page.getByRole('textbox', { name: 'Intents as text' })).toHaveValue(
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
    await dialog.getByRole('button', { name: 'Take 1 intent' }).click()
    await expect(lookout(page).getByRole('button', { name: /unasked$/ })).toHaveCount(0)
    await page.getByRole('tab', { name: 'As text' }).click()
    await expect(page.getByRole('textbox', { name: 'Intents as text' })).toHaveValue(
      /i-pair-pair: group group -> internet: all # default of a pair/,
    )
  })

  test('intents are typed as text; a wrong line is told with its column', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/rules`)
    await page.getByRole('tab', { name: 'As text' }).click()
    const text = page.getByRole('textbox', { name: 'Intents as text' })
    await expect(text).toHaveValue(
      /i-voice: voice -> internet: calls, dns survives fibre # Voice keeps working/,
    )
    await text.fill('i-guests: guests => internet: all')
    await expect(page.getByRole('alert')).toContainText(
      'line 1, column 18: "=> internet: all" stands where "->" is wanted',
    )
    await expect(page.getByRole('button', { name: 'Take these intents' })).toBeDisabled()
    await text.fill('i-guests: guests -> internet: all # Guests alone')
    await page.getByRole('button', { name: 'Take these intents' }).click()
    await page.getByRole('tab', { name: /^Intents \d/ }).click()
    await page.getByRole('button', { name: 'As a list' }).click()
    await expect(page.getByRole('grid', { name: 'Intents' }).getByRole('row')).toHaveCount(2)
  })
})

test('a failing proof is explained, with the next best test, and what the plan itself foresees', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/diagnose`)
  await page.getByLabel('only what failed').uncheck()
  const seen = (name: RegExp, what: string) => page.getByRole('combobox', { name }).selectOption(what)
  await seen(/^Seen: Instruments to Servers$/, 'failed')
  await seen(/^Seen: Staff to Servers$/, 'passed')
  await seen(/^Seen: Instruments: a client takes a lease$/, 'passed')
  await accessible(page)
  await page.getByRole('button', { name: 'Find what explains it' }).click()
  const found = page.getByRole('region', { name: 'Explanations' })
  await expect(found).toContainText('Rule 2 (Instruments deliver to the tide-data server) is missing', {
    timeout: 60_000,
  })
  await expect(found).toContainText('explains all 3')
  await expect(found).toContainText(/Try next: |Look next: /)
})

test('facts tell apart what fails alike: a stranger’s address, a MAC address on another port', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/diagnose`)
  const add = async (kind: string, thing: string, got: string) => {
    await page.getByRole('combobox', { name: 'Seen', exact: true }).selectOption({ label: kind })
    await page.getByRole('combobox', { name: 'Of', exact: true }).selectOption({ label: thing })
    await page.getByRole('combobox', { name: 'Was', exact: true }).selectOption({ label: got })
    await page.getByRole('button', { name: 'Add', exact: true }).click()
  }
  await add('the address that a host has', 'Staff desks', 'of no network here')
  await expect(page.getByRole('list', { name: 'Facts' })).toContainText(
    'The address of Staff desks: of no network here',
  )
  await accessible(page)
  const find = page.getByRole('button', { name: 'Find what explains it' })
  await find.click()
  const found = page.getByRole('region', { name: 'Explanations' })
  await expect(found).toContainText('Another DHCP server answers in Staff', { timeout: 60_000 })
  await page.getByRole('button', { name: /^Remove: The address of Staff desks/ }).click()
  await expect(found).toBeHidden()
  await expect(find).toBeDisabled()
  // What was said stays while another sheet is looked at.
  await add('the gateway’s address on a line', '5G', 'one of our own networks’')
  await page.getByRole('link', { name: 'Rehearse', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Reach grid' })).toBeVisible()
  await page.getByRole('link', { name: 'Prove', exact: true }).click()
  await page.getByRole('link', { name: 'Diagnose', exact: true }).click()
  await find.click()
  await expect(found).toContainText(
    'the modem gives the gateway an address of a network the site has itself',
    { timeout: 60_000 },
  )
})

test('Tunnels: keys are made, shown once on purpose with a code to scan, and noted', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/tunnels`)
  await expect(page.getByText('PrivateKey = KEY-WANTED')).toBeVisible()
  await accessible(page)
  await page
    .getByRole('grid', { name: 'Peers' })
    .getByRole('gridcell', { name: 'Surveyor on the road' })
    .click()
  await expect(page.getByRole('heading', { name: 'What Surveyor on the road is told' })).toBeVisible()
  await page.getByRole('button', { name: 'Make keys' }).click()
  await expect(page.getByText(/never shown\.$/)).toBeVisible()
  await page.getByRole('button', { name: 'Show its file with the private key' }).click()
  await expect(page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/)).toBeVisible()
  await expect(page.getByRole('img', { name: 'The file as a QR code' })).toBeVisible()
  await page.getByRole('button', { name: 'Hide it' }).click()
  await expect(page.getByText('PrivateKey = KEY-WANTED')).toBeVisible()
  await expect(page.getByText(/shown last .* to Planner\.$/)).toBeVisible()
  // It changes its key: both are let in until a day, and the new file is shown on purpose.
  await page.getByRole('button', { name: /^Change its key/ }).click()
  await expect(page.getByText(/Its new file has not been shown yet/)).toBeVisible()
  await expect(
    lookout(page).getByRole('button', { name: /^Surveyor on the road has two keys until/ }),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Show its new file with the private key' }).click()
  const fresh = await page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/).textContent()
  await page.getByRole('button', { name: 'Hide it' }).click()
  await page.getByRole('button', { name: 'Show its file with the private key' }).click()
  await expect(page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/)).not.toHaveText(fresh ?? '')
  await page.getByRole('button', { name: 'Hide it' }).click()
  await page.getByRole('button', { name: 'Finish: the old key goes' }).click()
  await page.getByRole('button', { name: 'Show its file with the private key' }).click()
  await expect(page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/)).toHaveText(fresh ?? '')
  await page.getByRole('button', { name: 'Hide it' }).click()
  // A peer that claims another's addresses is told, and the Lookout leads to it.
  await page.getByRole('grid', { name: 'Peers' }).getByRole('gridcell', { name: 'Boat crew' }).click()
  await page.getByRole('grid', { name: 'Peers' }).getByRole('gridcell', { name: '10.61.20.5/32' }).dblclick()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('10.61.20.4/32')
  await page.keyboard.press('Enter')
  await expect(
    lookout(page).getByRole('button', {
      name: 'Boat crew and Surveyor on the road claim the same addresses',
    }),
  ).toBeVisible()
})

test.describe('Device files', () => {
  test('shows what each device is told, file by file', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/files`)
    await expect(page.getByLabel('nftables.conf')).toContainText('policy drop')
    await accessible(page)
    await page.getByRole('button', { name: /^DHCP, Kea/ }).click()
    await expect(page.getByLabel('kea-dhcp4.json')).toContainText('"subnet": "10.61.1.0/24"')
    await page.getByLabel('Device', { exact: true }).selectOption({ label: 'Laboratory switch' })
    await expect(page.getByLabel('lab-switch.json')).toContainText('tagged-vlan-id')
  })

  test('compares what a gateway runs with the plan', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/files`)
    await page.getByRole('tab', { name: 'Compare with what runs' }).click()
    const printed = page.getByLabel('What the gateway prints')
    await printed.fill('the firewall is fine')
    await page.getByRole('button', { name: 'Compare' }).click()
    await expect(page.getByRole('alert')).toContainText('does not begin like anything that is read here')
    await printed.fill(
      '[{"priority":0,"table":"local"},{"priority":32766,"table":"main"},{"priority":77,"table":"7"}]',
    )
    await page.getByRole('button', { name: 'Compare' }).click()
    await expect(page.getByRole('status')).toContainText('in the choice between routing tables')
    await expect(page.getByText('ip rule 77 is not planned')).toBeVisible()
    await expect(page.getByText('ip rule 100 is missing')).toBeVisible()
  })
})

test('a WireGuard file from elsewhere becomes a tunnel, with its key sealed', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/tunnels`)
  await page.getByRole('button', { name: 'Read a file' }).click()
  const dialog = page.getByRole('dialog', { name: 'Read a WireGuard file' })
  const paste = dialog.getByRole('textbox', { name: 'or paste it' })
  await paste.fill('[Interface]\nAddress = 10.66.12.9/32\n[Peer]\nAllowedIPs = 0.0.0.0/0')
  await expect(dialog.getByRole('alert')).toContainText('line 3: a [Peer] without a PublicKey')
  // The example keys of wg(8).
  await paste.fill(
    '[Interface]\nPrivateKey = yAnz5TF+lXXJte14tji3zlMNq+hd2rYUIgJBgB3fBmk=\nAddress = ' +
      '10.66.12.9/32\nPostUp = true\n[Peer]\nPublicKey = ' +
      'xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg=\nAllowedIPs = 0.0.0.0/0\nEndpoint = ' +
      '203.0.113.77:51820',
  )
  await expect(dialog.getByRole('list', { name: 'Left out' })).toContainText(
    'nothing is run that a file asks for',
  )
  await dialog.getByRole('button', { name: 'Add it' }).click()
  await expect(page.getByRole('heading', { name: 'In Provider' })).toBeVisible()
  await expect(page.getByText(/Keys made .* by Planner; never shown/)).toBeVisible()
})

test('an IPsec sheet says whether both ends fit, and what is outdated', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/tunnels`)
  await page.getByRole('tab', { name: /IPsec/ }).click()
  await expect(page.getByText('The ends fit.')).toBeVisible()
  await accessible(page)
  await cell(page, 'IPsec parameters', 'Key exchange: groups', 1).dblclick()
  await page.getByRole('textbox', { name: 'Here' }).fill('2')
  await page.keyboard.press('Enter')
  await expect(page.getByText('The ends do not fit in one point')).toBeVisible()
  await expect(
    lookout(page).getByText('No key exchange group in common for the key exchange: 2 here, 19, 14 there.'),
  ).toBeVisible()
  await expect(lookout(page).getByText('Harbour Office: outdated algorithms')).toBeVisible()
})
