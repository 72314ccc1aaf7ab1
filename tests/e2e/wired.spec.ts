import type { Page } from '@playwright/test'
import { makeSerial } from '#core/queries'
import { accessible, cell, choose, lookout, row, saved, test, expect } from './fixtures'

const mast = (page: Page) => page.getByRole('navigation', { name: 'Stages' })

test.describe('the Brief', () => {
  test('a cellular uplink has its SIM, signal and price; what a SIM cannot be is told', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/brief`)
    await page.getByRole('tab', { name: /^Uplinks/ }).click()
    await accessible(page)
    const type = async (column: number, text: string) => {
      await cell(page, 'Cellular uplinks', '5G', column).dblclick()
      await page.keyboard.press('Control+A')
      await page.keyboard.type(text)
      await page.keyboard.press('Enter')
    }
    await type(1, '8999901000000004214')
    await expect(
      page.getByRole('alert').filter({ hasText: '8999901000000004214 does not check' }),
    ).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(cell(page, 'Cellular uplinks', '5G', 1)).toHaveText('8999 9010 0000 0004 213')
    await type(5, '-112')
    await expect(lookout(page).getByRole('button', { name: '5G: weak signal' })).toBeVisible()
    await type(5, '?')
    await expect(lookout(page).getByRole('button', { name: '5G: signal not known' })).toBeVisible()
    await type(5, '-78')
    await type(7, '20')
    await page.getByRole('link', { name: 'Plan', exact: true }).click()
    await page.getByRole('link', { name: 'Uplinks' }).click()
    // 24 GB a day are 720 GB in 30 days: 520 beyond what 20 a month pays for, at 2 each.
    await expect(
      page.getByText('fair signal (-78 dBm); 20 EUR a month; 1,060 EUR if it carried everything for 30 days'),
    ).toBeVisible()
  })

  test('says what is missing and what it blocks; a fact typed is missing no more', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/brief`)
    await expect(mast(page).getByText('6 facts missing')).toBeVisible()
    await accessible(page)
    await page.getByRole('button', { name: 'Fibre: MAC lock', exact: true }).click()
    await expect(page.getByRole('tab', { name: /Uplinks/ })).toHaveAttribute('aria-selected', 'true')
    await cell(page, 'Each uplink as its provider made it', 'Fibre', 4).dblclick()
    await page.getByRole('textbox', { name: 'MAC lock' }).fill('00-00-5E-00-53')
    await expect(page.getByRole('alert')).toHaveText(
      '00-00-5E-00-53 is not a MAC address such as 00-00-5E-00-53-01',
    )
    await page.getByRole('textbox', { name: 'MAC lock' }).fill('no')
    await page.keyboard.press('Enter')
    await expect(mast(page).getByText('5 facts missing')).toBeVisible()
    await expect(lookout(page).getByText('Fibre: MAC lock not known')).toHaveCount(0)
    await expect(page.getByText(/rev [2-9], saved/)).toBeVisible()
  })

  test('needs, rooms and distances are listed, added and removed', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/brief`)
    await page.getByRole('tab', { name: 'Site and places' }).click()
    await accessible(page)
    await page.getByRole('button', { name: 'Add a room' }).click()
    await expect(mast(page).getByText('7 facts missing')).toBeVisible()
    await page.getByRole('button', { name: 'Remove Room 5' }).click()
    await expect(mast(page).getByText('6 facts missing')).toBeVisible()
    await page.getByRole('tab', { name: /Needs/ }).click()
    await page.getByRole('button', { name: 'Add a need' }).click()
    await expect(row(page, 'Who and what must be connected', 'New need')).toContainText('none yet')
  })

  test('the checklist is ticked on a phone, by whoever does the work', async ({ page, browser, baseURL }) => {
    const context = await browser.newContext({
      viewport: { width: 390, height: 844 },
      ...(baseURL ? { baseURL } : {}),
    })
    const phone = await context.newPage()
    const { signIn } = await import('./fixtures')
    await signIn(phone, 'Rigger')
    await phone.goto('/sites/gullhaven/brief')
    await phone.getByRole('tab', { name: /Before you unplug/ }).click()
    const item = phone.getByRole('checkbox', { name: /Photograph the wiring/ })
    await item.check()
    await expect(phone.getByText(/done by Rigger/)).toBeVisible()
    await accessible(phone)
    await item.uncheck()
    await expect(phone.getByText(/done by Rigger/)).toHaveCount(0)
    await context.close()
    await page.goto('/sign-in')
  })
})

test.describe('Equipment', () => {
  test('a list with a bad row marks it and takes nothing; its good rows are taken alone when that is asked', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/equipment`)
    await accessible(page)
    await page.getByRole('button', { name: 'Import CSV' }).click()
    const text = page.getByRole('textbox', { name: 'or paste it' })
    const good = makeSerial('GH', '7A77K5R')
    await text.fill(`model,serial,mac,device\nA2X,${good},01-00-5E-00-53-77,Boathouse AP`)
    await expect(
      page.getByText('mac: 01-00-5E-00-53-77 is a group address; no device owns one'),
    ).toBeVisible()
    await expect(page.getByRole('button', { name: 'Import 1 box' })).toBeDisabled()
    const wrong = `A2X,${makeSerial('GH', '7A77K6R')},not-a-mac,`
    await text.fill(`model,serial,mac,device\nA2X,${good},00-00-5E-00-53-77,Boathouse AP\n${wrong}`)
    await expect(page.getByRole('button', { name: 'Import 2 boxes' })).toBeDisabled()
    await page.getByRole('button', { name: 'Import 1 good row, keep 1 here' }).click()
    // What was wrong is still there to be put right.
    await expect(text.locator('.cm-line')).toHaveText(['model,serial,mac,device', wrong])
    await page.getByRole('button', { name: 'Cancel' }).click()
    await expect(row(page, 'Boxes', good)).toContainText('Boathouse AP')
    await expect(mast(page).getByText('4 facts missing')).toBeVisible()
  })

  test('a scanner types a serial, then a MAC', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/equipment`)
    const scan = page.getByRole('textbox', { name: 'Scan or type a label' })
    const serial = makeSerial('GH', '7A78K5R')
    await scan.fill(serial)
    await scan.press('Enter')
    await scan.fill('00:00:5E:00:53:78')
    await scan.press('Enter')
    await expect(row(page, 'Boxes', serial)).toContainText('00-00-5E-00-53-78')
    await scan.fill('nonsense')
    await scan.press('Enter')
    await expect(page.getByText('nonsense holds neither a serial nor a MAC address')).toBeVisible()
  })

  test('the bench keeps apart what has one factory address; a model of one’s own is made', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/run-sheet`)
    await page.getByRole('tab', { name: 'Bench' }).click()
    await expect(page.getByRole('row', { name: /Skerry bridge, end A/ }).first()).toContainText(
      '192.168.88.254/24',
    )
    await accessible(page)
    await page.goto(`/sites/${copy}/equipment`)
    await page.getByRole('tab', { name: /Models/ }).click()
    await page.getByRole('button', { name: 'Add a model' }).click()
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('S24P')
    await expect(page.getByText('Name: there is a S24P already.')).toBeVisible()
    await page.getByRole('textbox', { name: 'Name', exact: true }).fill('S12Q')
    await choose(page, 'Power', 'gives class 4')
    await page.getByRole('textbox', { name: 'PoE budget, W' }).fill('120')
    await page.getByRole('button', { name: 'Save model' }).click()
    await expect(page.getByRole('row', { name: /S12Q/ })).toContainText(
      'gives class 4, 30 W a port, 120 W in all',
    )
  })
})

test.describe('Addresses in full', () => {
  test('subnets are given from needs, what is adopted stays', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/brief`)
    await page.getByRole('tab', { name: /Needs/ }).click()
    await page.getByRole('button', { name: 'Add a need' }).click()
    await page.keyboard.press('g')
    await page.keyboard.press('a')
    await page.getByRole('button', { name: 'Assign subnets' }).click()
    await accessible(page)
    const line = page.getByRole('dialog').getByRole('row').filter({ hasText: 'New need' })
    await expect(line).toContainText('10.61.5.0/24')
    await page.getByRole('button', { name: 'Apply 1 network' }).click()
    await expect(row(page, 'Networks', 'New need')).toContainText('10.61.5.0/24')
  })

  test('a length moves by arrow keys and by the mouse; a collision is refused with the reason', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/addresses`)
    const voice = page.getByRole('button', { name: /^Voice, VLAN 50/ })
    await voice.focus()
    await page.keyboard.press('ArrowRight')
    await expect(row(page, 'Networks', 'Voice')).toContainText('10.61.5.0/24')
    await expect(row(page, 'Networks', 'Voice')).toContainText('10.61.5.1')
    await page.keyboard.press('Shift+ArrowLeft')
    await expect(row(page, 'Networks', 'Voice')).toContainText('10.61.5.0/25')
    const box = await page.getByRole('button', { name: /^Cameras, VLAN 40/ }).boundingBox()
    if (!box) throw new Error('no length')
    await page.mouse.move(box.x + 12, box.y + 20)
    await page.mouse.down()
    await page.mouse.move(box.x - 60, box.y + 20, { steps: 5 })
    await page.mouse.up()
    await expect(page.getByRole('alert')).toContainText(
      'Cameras stays at 10.61.3.0/24: 10.61.1.0/24 collides with Staff, 10.61.1.0/24',
    )
    await page.mouse.move(box.x + 12, box.y + 20)
    await page.mouse.down()
    await page.mouse.move(box.x + 12 + 46 * 6, box.y + 20, { steps: 5 })
    await page.mouse.up()
    await expect(row(page, 'Networks', 'Cameras')).toContainText('10.61.9.0/24')
  })

  test('zooms, and the finer view keeps its names', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/addresses`)
    await page.getByRole('button', { name: /^Servers, VLAN 20/ }).click()
    await page.getByRole('button', { name: 'Near Servers' }).click()
    await expect(
      page.getByRole('group', { name: 'Address ruler' }).locator('text', { hasText: 'Servers' }),
    ).toBeVisible()
    await page.getByRole('button', { name: 'Whole block' }).click()
    await expect(page.getByRole('button', { name: 'Farther' })).toBeDisabled()
  })

  test('a lease that is too long shows in the picture and is mended', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/addresses`)
    await lookout(page).getByRole('button', { name: 'Guests: lease too long for the turnover' }).click()
    await page.getByRole('tab', { name: 'Clients' }).click()
    await expect(
      page.getByRole('img', {
        name: /With 501 addresses and a lease of 8 h, 1\.3\d % of clients find the pool empty/,
      }),
    ).toBeVisible()
    await accessible(page)
    await lookout(page).getByRole('button', { name: 'Lease 4 h' }).click()
    await expect(page.getByRole('img', { name: /a lease of 4 h, 0\.00 % of clients/ })).toBeVisible()
    await page.getByRole('tab', { name: 'DHCP' }).click()
    await page.getByRole('textbox', { name: 'Name servers' }).fill('10.61.2.999')
    await expect(page.getByRole('alert').filter({ hasText: '10.61.2.999' })).toHaveText(
      '10.61.2.999 is not an IPv4 address',
    )
  })
})

test.describe('the Loom in full', () => {
  test('trunks are mended, ports are set by span, and templates laid', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/loom`)
    await expect(page.getByText('Spanning tree: root Laboratory switch; no port blocked')).toBeVisible()
    await page.getByRole('button', { name: 'Mend trunks' }).click()
    await expect(
      page.getByRole('dialog').getByRole('row').filter({ hasText: 'Laboratory switch' }),
    ).toContainText('22')
    await page.getByRole('button', { name: 'Mend 1 port' }).click()
    await expect(lookout(page).getByText('Cameras 40 stops short')).toHaveCount(0)
    await page.getByRole('button', { name: 'Set ports' }).click()
    await choose(page, 'Device', 'Laboratory switch, S24P')
    await page.getByRole('textbox', { name: 'Ports', exact: true }).fill('2-40')
    await page.getByRole('textbox', { name: 'VLAN', exact: true }).fill('60')
    await page.getByRole('button', { name: 'Apply', exact: true }).click()
    await expect(page.getByRole('alert').filter({ hasText: 'Nothing was set' })).toContainText(
      'there is no port 29',
    )
    await page.getByRole('textbox', { name: 'Ports', exact: true }).fill('2-12')
    await page.getByRole('button', { name: 'Apply', exact: true }).click()
    await expect(lookout(page).getByText('Staff desks land in Guests').first()).toBeVisible()
    await page.getByRole('button', { name: 'Set ports' }).click()
    await accessible(page)
    await page.getByRole('button', { name: 'Apply to Laboratory switch' }).click()
    await expect(lookout(page).getByText('Staff desks land in Guests')).toHaveCount(0)
  })

  test('zooms by its buttons', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/loom`)
    const width = async () => (await page.getByRole('group', { name: 'Loom' }).boundingBox())?.width ?? 0
    const before = await width()
    await page.getByRole('button', { name: 'Nearer' }).click()
    expect(await width()).toBeGreaterThan(before * 1.2)
    await page.getByRole('button', { name: 'As it was' }).click()
    expect(Math.round(await width())).toBe(Math.round(before))
  })
})

test.describe('Cables and Power', () => {
  test('labels follow their rule and are printed with codes', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/cables`)
    await accessible(page)
    await page.getByRole('textbox', { name: 'Label rule' }).fill('{n:4}/{colour}')
    await expect(page.getByRole('alert')).toContainText('colour is not known in a label rule')
    await page.getByRole('textbox', { name: 'Label rule' }).fill('{n:4}/{from}')
    await expect(row(page, 'Schedule, in the order of the labels', '0001/FT')).toBeVisible()
    await saved(page, 2)
    await page.getByRole('link', { name: 'Print labels' }).click()
    await expect(page.getByText('100 labels of revision 2')).toBeVisible()
    await expect(page.getByRole('article').first()).toContainText('0001/FT')
    await page.goto(`/sites/${copy}/loom?port=lab-switch%2Fp22`)
    await expect(page.getByRole('heading', { name: 'Ports of Laboratory switch' })).toBeVisible()
  })

  test('power adds up, and a device without any says so', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/power`)
    await accessible(page)
    await expect(page.getByRole('img', { name: /W drawn and 103\.4 W reserved of 190 W/ })).toBeVisible()
    await page.getByRole('checkbox', { name: 'Laboratory AP 1' }).check()
    await expect(page.getByRole('img', { name: /W drawn and 73\.4 W reserved of 190 W/ })).toBeVisible()
    await page.getByRole('textbox', { name: 'PoE headroom, %' }).fill('80')
    await expect(lookout(page).getByText('Skerry switch: power without headroom')).toBeVisible()
    await page.getByRole('textbox', { name: 'PoE headroom, %' }).fill('95')
    await expect(page.getByRole('alert')).toHaveText('95 is not a number from 0 to 90')
  })

  test('each sheet explains its pictures', async ({ planner: page, copy }) => {
    for (const [sheet, says] of [
      ['power', 'Each bar is a budget'],
      ['loom', 'ends in a magenta knot'],
      ['brief', 'Missing facts'],
    ] as const) {
      await page.goto(`/sites/${copy}/${sheet}`)
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
      await page.keyboard.press('?')
      await expect(page.getByRole('dialog')).toContainText(says)
    }
  })
})
