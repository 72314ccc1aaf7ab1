import { accessible, cell, choose, lookout, saved, test, expect } from './fixtures'

test.describe('the Loom', () => {
  test.beforeEach(async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/loom`)
    await expect(page.getByRole('group', { name: 'Loom' })).toBeVisible()
  })

  test('shows where a VLAN stops short, and the mend lets it through', async ({ planner: page }) => {
    await accessible(page)
    const gap = page.getByRole('img', {
      name: 'Cameras 40 stops here: Laboratory switch port 22 does not carry it',
    })
    await expect(gap).toBeVisible()
    await lookout(page).getByRole('button', { name: 'Tag 40 on port 22' }).click()
    await expect(gap).toHaveCount(0)
    await expect(
      page.getByRole('button', { name: /Laboratory switch 22 to Skerry bridge, end A lan: VLAN 99, 30, 40/ }),
    ).toBeVisible()
    await saved(page, 2)
  })

  test('a port is changed in the table, and at once the Lookout says what breaks', async ({
    planner: page,
  }) => {
    await page.getByRole('button', { name: 'Boathouse switch S8P', exact: true }).click()
    await expect(page.getByRole('heading', { name: 'Ports of Boathouse switch' })).toBeVisible()
    await cell(page, 'Ports', 'Boathouse cameras 1', 3).dblclick()
    await page.getByRole('textbox', { name: 'Native' }).fill('30')
    await expect(lookout(page).getByText('Boathouse cameras land in Instruments')).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(lookout(page).getByText('Boathouse cameras land in Instruments')).toHaveCount(0)
    await cell(page, 'Ports', 'Laboratory switch 21', 4).dblclick()
    const tagged = page.getByRole('textbox', { name: 'Tagged' })
    await tagged.fill('10 30 5000')
    await expect(page.getByRole('alert')).toHaveText('5000 is not a whole number from 1 to 4094')
    await tagged.fill('10 30 60')
    await page.keyboard.press('Enter')
    await expect(
      lookout(page).getByText('Boathouse switch port 1 does not carry it. Without it: Boathouse cameras.'),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(
      lookout(page).getByText('Boathouse switch port 1 does not carry it.', { exact: false }),
    ).toHaveCount(0)
  })

  test('access becomes trunk and keeps its VLAN; a cable changes kind', async ({ planner: page }) => {
    await cell(page, 'Ports', 'File server 1', 2).dblclick()
    await page.getByRole('combobox', { name: 'Mode' }).selectOption('trunk')
    await page.keyboard.press('Enter')
    await expect(cell(page, 'Ports', 'File server 1', 3)).toHaveText('20')
    await lookout(page).getByRole('button', { name: 'Move to fibre OS2' }).click()
    await expect(cell(page, 'Ports', 'Boathouse switch 9', 7)).toHaveText('fibre OS2 between buildings')
    await expect(lookout(page).getByText('Copper between buildings')).toHaveCount(0)
  })

  test('a thread is picked out, and the weather draws what is down', async ({ planner: page }) => {
    await page.getByRole('button', { name: 'Voice 50' }).click()
    await expect(page.getByRole('heading', { name: 'Ports that carry VLAN 50' })).toBeVisible()
    await expect(page.getByRole('grid', { name: 'Ports' }).getByRole('row')).toHaveCount(7)
    await page.keyboard.press('w')
    await page.getByRole('searchbox', { name: 'Device, cable or uplink' }).fill('boathouse switch')
    await page.getByRole('button', { name: 'Boathouse switch', exact: true }).click()
    await expect(page.getByRole('button', { name: 'Weather Boathouse switch down' })).toBeVisible()
    await expect(page.getByText('Boathouse switch (down)')).toBeVisible()
  })
})

test.describe('the reach grid', () => {
  test.beforeEach(async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/reach`)
    await expect(page.getByRole('table', { name: 'Reach grid' })).toBeVisible()
  })

  test('opens at what is against the intent and walks it to the port that drops it', async ({
    planner: page,
  }) => {
    await accessible(page)
    const walk = page.getByRole('region', { name: 'Walk' })
    await expect(walk.getByRole('heading', { name: 'Cameras to Servers' })).toBeVisible()
    await expect(walk).toContainText('does not pass')
    await expect(walk.getByRole('listitem').filter({ hasText: 'dropped' })).toContainText(
      'Laboratory switch 22',
    )
    await expect(walk).toContainText('has no address: no DHCP server hears it')
  })

  test('a cell is opened and walked, hop by hop, with the deciding rule; another service is stopped', async ({
    planner: page,
  }) => {
    await page
      .getByRole('button', {
        name: /^Staff to Servers: predicted: HTTPS, Files, Ping|^Staff to Servers: predicted/,
      })
      .click()
    const walk = page.getByRole('region', { name: 'Walk' })
    await expect(walk).toContainText('passes')
    await expect(walk).toContainText('not all its tests were tried')
    await expect(walk.getByRole('listitem').filter({ hasText: 'Gateway, rule 3' })).toContainText('accepts')
    await expect(
      walk.getByRole('listitem').filter({ hasText: 'Gateway 4 → Laboratory switch 25' }),
    ).toContainText('tagged 20')
    await choose(walk, 'Walk', 'SSH, tcp 22')
    await expect(walk).toContainText('does not pass')
    await expect(walk.getByRole('listitem').filter({ hasText: 'Gateway, default' })).toContainText('drops')
    // Any other flow, typed: between these two, and between any two addresses.
    const any = walk.getByRole('textbox', { name: 'Any flow' })
    const type = async (text: string) => {
      await any.fill(text)
      await any.press('Enter')
    }
    await type('tcp 4455')
    await expect(walk).toContainText('tcp 4455: does not pass')
    await type('10.61.1.10 to 10.61.0.2 tcp 22')
    await expect(walk).toContainText('Admin desk 10.61.1.10 to Laboratory switch 10.61.0.2, tcp 22: passes')
    await expect(walk).toContainText('1 GB in')
    await walk.getByRole('spinbutton', { name: 'GB to move' }).fill('40')
    await expect(walk).toContainText('40 GB in')
    await type('10.61.1.10 to 10.99.0.2 tcp 22')
    await expect(walk).toContainText('Nobody has one of these addresses in this weather.')
    await type('ssh')
    await expect(walk.getByRole('alert')).toContainText('ssh is no flow such as tcp 8080')
    await accessible(page)
  })

  test('any one failure is tried: the fibre, then a switch, then a cable', async ({ planner: page }) => {
    const fail = async (sought: string, name: string) => {
      await page.keyboard.press('w')
      await page.getByRole('searchbox', { name: 'Device, cable or uplink' }).fill(sought)
      await page.getByRole('button', { name, exact: true }).click()
    }
    await page.getByRole('button', { name: /^Staff to Internet: predicted: all/ }).click()
    const walk = page.getByRole('region', { name: 'Walk' })
    await expect(walk.getByRole('listitem').filter({ hasText: 'NAT' })).toContainText('Fibre')
    await fail('fibre', 'Fibre')
    await expect(walk.getByRole('listitem').filter({ hasText: 'NAT' })).toContainText('5G')
    await expect(page.getByText('Computed with Fibre down.')).toBeVisible()
    await fail('laboratory switch', 'Laboratory switch')
    await expect(
      page.getByRole('button', { name: /^Staff to Internet: does not pass for all: all/ }),
    ).toBeVisible()
    await fail('gateway 4', 'Gateway 4 to Laboratory switch 25')
    await expect(
      page.getByRole('button', { name: /^Voice to Internet: does not pass for all/ }),
    ).toBeVisible()
    await page.keyboard.press('w')
    await page.getByRole('button', { name: 'All well' }).last().click()
    await expect(page.getByRole('button', { name: /^Voice to Internet: predicted/ })).toBeVisible()
  })

  test('says the smallest change that satisfies a missing intent, and makes it', async ({
    planner: page,
  }) => {
    await page.getByRole('button', { name: 'Find the smallest change' }).click()
    const first = page
      .getByRole('list', { name: 'Changes that would satisfy it' })
      .getByRole('listitem')
      .first()
    await expect(first).toContainText('Tag VLAN 40 on Laboratory switch port 22')
    await expect(first).toContainText('Nothing else changes against the intents')
    await first.getByRole('button', { name: 'Make this change' }).click()
    await expect(page.getByRole('button', { name: /^Cameras to Servers: predicted: Video/ })).toBeVisible()
    await saved(page, 2)
  })

  test('shows the way on the Loom, step by step, up to the port that drops it', async ({ planner: page }) => {
    await page.getByRole('button', { name: 'Show the way on the Loom' }).click()
    await expect(page.getByRole('group', { name: 'Loom' })).toBeVisible()
    await expect(
      page.getByText('Skerry cameras to Recorder, tcp 554: does not pass: has no address'),
    ).toBeVisible()
    await expect(page.getByRole('img', { name: 'The walk ends here' })).toBeVisible()
    await lookout(page).getByRole('button', { name: 'Tag 40 on port 22' }).click()
    // The camera has an address now, and its way is walked anew from that.
    await expect(page.getByText('Skerry cameras to Recorder, tcp 554: passes')).toBeVisible()
    await expect(page.getByRole('img', { name: 'The walk ends here' })).toHaveCount(0)
    await page.getByRole('button', { name: 'Hide the way' }).click()
    await expect(page.getByText('Skerry cameras to Recorder')).toHaveCount(0)
  })

  test('is cut down to what is sought, and set beside another weather', async ({ planner: page }) => {
    const rows = page.getByRole('table', { name: 'Reach grid' }).getByRole('rowheader')
    await choose(page, 'Show', 'against the intent')
    await expect(rows).toHaveText(['Cameras'])
    await choose(page, 'Show', 'all')
    await page.getByLabel('alike as one').check()
    await expect(rows.filter({ hasText: '+1' })).toHaveCount(1)
    await page.getByLabel('alike as one').uncheck()
    await choose(page, 'Service', 'Files')
    await expect(page.getByRole('button', { name: 'Boat crew to Servers: predicted: Files' })).toBeVisible()
    await choose(page, 'Service', 'all')
    await choose(page, 'Beside', 'Fibre down')
    await expect(page.getByText('Guests to Internet: closed all')).toBeVisible()
    await expect(page.getByRole('button', { name: 'Guests to Internet: closes all' })).toBeVisible()
    await expect(rows.filter({ hasText: 'Voice' })).toHaveCount(0)
    await page.getByRole('searchbox', { name: 'Rows or columns named' }).fill('guests')
    await expect(rows).toHaveText(['Guests'])
  })

  test('moves by arrow keys and opens by Enter', async ({ planner: page }) => {
    await page.getByRole('button', { name: /^Staff to Servers/ }).focus()
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await expect(
      page.getByRole('region', { name: 'Walk' }).getByRole('heading', { name: 'Instruments to Servers' }),
    ).toBeVisible()
  })
})

test('the weather table tries every single failure, and a row opens the grid under it', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/weather`)
  await expect(page.getByText(/^(\d+) of \1 single failures tried; \d+ break an intent/)).toBeVisible()
  await accessible(page)
  const inWords = (what: string) =>
    page.getByRole('button', { name: new RegExp(`lost by ${what}: in words$`) }).click()
  const lost = (intent: string) => page.getByRole('listitem').filter({ hasText: intent })
  await expect(
    page.getByRole('row', { name: /^Gateway gateway/ }).getByText('lost', { exact: true }),
  ).toHaveCount(9)
  await inWords('Gateway')
  await expect(lost('Guests reach the internet and nothing else')).toBeVisible()
  await expect(page.getByRole('row', { name: /^Voice keeps working with the fibre down/ })).not.toContainText(
    'Fibre',
  )
  await page.getByRole('tab', { name: /Chosen pairs/ }).click()
  await expect(page.getByText(/^(\d+) of \1 pairs tried/)).toBeVisible()
  await inWords('Fibre and 5G')
  await expect(lost('Staff reach the internet')).toBeVisible()
  await page.getByText(/choose which/).click()
  await page.getByLabel('5G', { exact: true }).uncheck()
  await expect(page.getByRole('row', { name: /^Fibre and 5G line/ })).toHaveCount(0)
  await page.getByRole('tab', { name: 'Kept runs' }).click()
  await page.getByRole('button', { name: 'Try every single failure' }).click()
  const kept = page.getByRole('table', { name: 'Kept runs' })
  await kept.getByRole('button', { name: 'every single failure' }).click()
  await expect(kept.getByRole('listitem').filter({ hasText: /^Gateway:/ })).toContainText(
    'Guests reach the internet',
  )
  await page.getByRole('tab', { name: /Single failures/ }).click()
  await page.getByRole('button', { name: 'Laboratory switch', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Weather Laboratory switch down' })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Reach grid' })).toBeVisible()
})
