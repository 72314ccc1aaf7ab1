import type { Page, Route } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { accessible, another, choose, signIn, test, expect } from './fixtures'
import { PLAN_VERSION } from '../../core/format/version'

// The lab's shelf belongs to the demo site itself; these tests go through it in order, as a rigger would.
test.describe.configure({ mode: 'serial' })

const shelf = (page: Page, label: string) =>
  page.getByRole('region', { name: 'Lab shelf' }).getByRole('listitem').filter({ hasText: label })
const line = (page: Page, device: string) => page.locator(`[data-device="${device}"]`)

test('a claimed device is powered on and goes to in sync, while one watches', async ({ page, browser }) => {
  const watcher = await another(browser, 'Keeper')
  await watcher.goto('/sites/gullhaven/roster')
  await signIn(page, 'Rigger')
  await page.goto('/sites/gullhaven/roster')
  await expect(page.getByText('8 of 10 in sync. Live.')).toBeVisible()
  await accessible(page)
  await shelf(page, 'Skerry switch')
    .getByRole('button', { name: /Power on/ })
    .click()
  await expect(line(page, 'skerry-switch').locator('b', { hasText: 'in sync' })).toBeVisible()
  // Nobody reloaded the other page.
  await expect(line(watcher, 'skerry-switch').locator('b', { hasText: 'in sync' })).toBeVisible()
  await line(page, 'skerry-switch')
    .getByRole('button', { name: /bootstrap-complete/ })
    .click()
  for (const word of [
    'leased 10.61.0.',
    'bootstrap-initiated',
    'boot-image-installed-rebooting: 2.8.1',
    'config-complete',
  ])
    await expect(line(page, 'skerry-switch')).toContainText(word)
  await watcher.context().close()
})

test('an unclaimed one is a stranger; claimed from there, it goes on by itself', async ({ page }) => {
  await signIn(page, 'Rigger')
  await page.goto('/sites/gullhaven/roster')
  await shelf(page, 'Boathouse AP')
    .getByRole('button', { name: /Power on/ })
    .click()
  const stranger = page.locator('[data-stranger="GH-7A05-K5RZ"]')
  await expect(stranger.locator('b', { hasText: 'asks, claimed by nobody' })).toBeVisible()
  await expect(stranger.getByRole('combobox', { name: 'Claim GH-7A05-K5RZ for' })).toHaveValue('Boathouse AP')
  await stranger.getByRole('button', { name: 'Claim GH-7A05-K5RZ' }).click()
  await expect(line(page, 'boat-ap').locator('b', { hasText: 'in sync' })).toBeVisible()
  await expect(stranger).toHaveCount(0)
  await expect(page.getByText('10 of 10 in sync').first()).toBeVisible()
})

/** Does what was asked at once, and says so two seconds later. */
async function answerLate(route: Route): Promise<void> {
  const response = await route.fetch()
  await new Promise((done) => setTimeout(done, 2000))
  await route.fulfill({ response })
}

test(
  'wrong serial kind, mistyped serial, old firmware, not in factory state: each ends in ' +
    'its own state with what to do',
  async ({ page, baseURL }) => {
    await signIn(page, 'Rigger')
    await page.request.delete('/api/sites/gullhaven/claims/GH-7A05-K5RZ', {
      headers: { origin: baseURL ?? '' },
    })
    await page.goto('/sites/gullhaven/roster')
    const serial = page.getByRole('textbox', { name: 'Serial' })
    const claim = async (text: string) => {
      await serial.fill(text)
      await choose(page, 'For', 'Boathouse AP')
      await page.getByRole('button', { name: 'Claim', exact: true }).click()
    }
    const release = () => line(page, 'boat-ap').getByRole('button', { name: 'Release Boathouse AP' }).click()

    await serial.fill('GH-7A05-K5RX')
    await expect(page.getByRole('alert')).toHaveText(
      'GH-7A05-K5RX does not check: a character is mistyped or two are swapped',
    )
    // The roster tells of it before the answer comes, and what is typed meanwhile stays.
    await page.route(/\/claims$/, answerLate, { times: 1 })
    await claim('GB-7A05-K5RB')
    await expect(line(page, 'boat-ap')).toContainText('wrong kind of serial')
    await expect(line(page, 'boat-ap')).toContainText('claim the product serial, which starts with GH')
    await release()

    await claim('gh7a41k7re')
    await shelf(page, 'Spare A2X, old stock')
      .getByRole('button', { name: /Power on/ })
      .click()
    await expect(line(page, 'boat-ap').locator('b', { hasText: 'firmware too old' })).toBeVisible()
    await expect(line(page, 'boat-ap')).toContainText('Update it by hand')
    await shelf(page, 'Spare A2X, old stock').getByRole('button', { name: 'Update by hand' }).click()
    await expect(line(page, 'boat-ap').locator('b', { hasText: 'in sync' })).toBeVisible()
    await page.request.delete('/api/sites/gullhaven/claims/GH-7A41-K7RE', {
      headers: { origin: baseURL ?? '' },
    })

    await claim('GH-7A42-K4RA')
    await shelf(page, 'Spare A2X, used before')
      .getByRole('button', { name: /Power on/ })
      .click()
    await expect(
      line(page, 'boat-ap').locator('b', { hasText: 'silent: not in factory state' }),
    ).toBeVisible()
    await shelf(page, 'Spare A2X, used before').getByRole('button', { name: 'Reset to factory' }).click()
    await expect(line(page, 'boat-ap').locator('b', { hasText: 'in sync' })).toBeVisible()

    // What is in sync is given up on purpose, and who served before is kept.
    const replace = line(page, 'boat-ap').getByRole('button', { name: 'Replace or release Boathouse AP' })
    await replace.click()
    const dialog = page.getByRole('dialog', { name: 'Replace or release Boathouse AP' })
    await dialog.getByRole('textbox', { name: 'Serial of the new box' }).fill('GH-7A00-K5R0')
    await expect(dialog.getByRole('button', { name: 'Replace', exact: true })).toBeDisabled()
    await dialog.getByRole('button', { name: 'Release without a new one' }).click()
    await expect(line(page, 'boat-ap')).toContainText('GH-7A42-K4RA served from')
    await expect(line(page, 'boat-ap')).toContainText('no serial yet')
  },
)

test('a pasted list is checked row by row, and its good rows are claimed alone when that is asked', async ({
  page,
}) => {
  await signIn(page, 'Rigger')
  await page.goto('/sites/gullhaven/roster')
  await page.getByRole('checkbox', { name: 'Paste a list' }).check()
  const list = page.getByRole('textbox', { name: 'Serial, device: one a line' })
  await list.fill('serial,device\nGH-7A05-K5RZ,Boathouse AP\nGH-7A05-K5RX,visitor ap')
  await expect(page.getByRole('alert')).toHaveText(
    'row 3, column "serial": GH-7A05-K5RX does not check: a character is mistyped or two are swapped',
  )
  await expect(page.getByRole('button', { name: 'Claim all' })).toBeDisabled()
  await page.getByRole('button', { name: 'Claim 1 good row, keep 1 here' }).click()
  await expect(line(page, 'boat-ap')).toContainText('GH-7A05-K5RZ')
  await expect(list).toHaveValue('GH-7A05-K5RX,visitor ap')
})

test('the lab is asked and one hidden fault shows; a result is written down by hand', async ({ page }) => {
  await signIn(page, 'Rigger')
  await page.goto('/sites/gullhaven/prove')
  await expect(page.getByText('16 of 44 proven').first()).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Run tests in the lab' }).click()
  const tide = page.locator('[data-test="passes:i-tide:instruments:servers"]')
  await expect(tide).toContainText('failed: does not pass: udp 123')
  await expect(tide.getByRole('img', { name: 'failed' })).toBeVisible()
  await choose(page, 'Show', 'failed')
  await expect(page.locator('[data-test]')).toHaveCount(4)

  await tide.getByRole('button', { name: /Record/ }).click()
  await accessible(page)
  await page.getByRole('radio', { name: 'as it must be', exact: true }).check()
  await page.getByRole('textbox', { name: 'Tried from' }).fill('Logger on bench strip port 4')
  await page.getByRole('textbox', { name: 'Value read' }).fill('offset 0.004 s')
  await page.getByRole('textbox', { name: 'Note' }).fill('after the rule was mended')
  await page.getByRole('button', { name: 'Record result' }).click()
  await expect(tide).toHaveCount(0)
  await choose(page, 'Show', 'all')
  await expect(tide).toContainText('offset 0.004 s')
  await expect(tide).toContainText('Logger on bench strip port 4, Rigger')
  await expect(tide).toContainText('after the rule was mended')
})

/** An antenna is aimed: a side lobe is told from the peak, and the peak is kept. */
async function recordLevel(page: Page): Promise<void> {
  const test = page.locator('[data-test^="level:"][data-test$=":b"]')
  await expect(test).toContainText('the boathouse gable')
  await test.getByRole('button', { name: /Record/ }).click()
  await expect(page.getByText('Nobody stands in front of an antenna that sends.')).toBeVisible()
  await page.getByRole('radio', { name: 'it was aimed to its highest level' }).check()
  await page.getByRole('textbox', { name: 'Level read' }).fill('40 %')
  await expect(page.getByText('sweep both ways for the peak')).toBeVisible()
  await page.getByRole('textbox', { name: 'Level read' }).fill('-62 dBm')
  await expect(page.getByText('Passed: as promised.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Tried from' }).fill('Foot of the mast')
  await page.getByRole('button', { name: 'Record result' }).click()
  await expect(test).toContainText('-62 dBm')
}

test('roster and proof can be worked on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await signIn(page, 'Rigger')
  for (const sheet of ['roster', 'prove']) {
    await page.goto(`/sites/gullhaven/${sheet}`)
    await expect(page.getByRole('navigation', { name: 'Where you are' })).toBeVisible()
    await expect(page.locator('[data-device], [data-test]').first()).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    const heights = await page
      .locator('main .v-btn:visible')
      .evaluateAll((buttons) => buttons.map((b) => b.getBoundingClientRect().height))
    expect(heights.length).toBeGreaterThan(1)
    expect(Math.min(...heights)).toBeGreaterThanOrEqual(44)
    await accessible(page)
  }
  await page
    .locator('[data-test="lease:voice"]')
    .getByRole('button', { name: /Record/ })
    .click()
  // What is measured is judged: an address of another network is no pass, however it is meant.
  await page.getByRole('radio', { name: 'an address was taken' }).check()
  await expect(page.getByRole('button', { name: 'Record result' })).toBeDisabled()
  await page.getByRole('textbox', { name: 'Address taken' }).fill('10.61.1.44')
  await expect(page.getByText('Voice hands out no 10.61.1.44')).toBeVisible()
  await expect(page.getByText('Will be recorded as failed.')).toBeVisible()
  await page.getByRole('textbox', { name: 'Tried from' }).fill('Telephone 3')
  await page.getByRole('button', { name: 'Record result' }).click()
  await expect(page.locator('[data-test="lease:voice"]')).toContainText('Telephone 3, Rigger')
  await expect(page.locator('[data-test="lease:voice"]')).toContainText('failed: 10.61.1.44')
  await recordLevel(page)
  await page.getByRole('button', { name: /Prove/ }).click()
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Adopt' }).click()
  await expect(page.getByRole('heading', { name: 'Roster' })).toBeVisible()
})

test('the keeper takes the papers: CSV, site file and a page to print', async ({ page }) => {
  await signIn(page, 'Keeper')
  await page.goto('/sites/gullhaven/hand-over')
  await expect(page.getByText('Waits for Prove:', { exact: false })).toBeVisible()
  await accessible(page)
  const take = async (name: string) => {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: `Download ${name}` }).click(),
    ])
    return { name: file.suggestedFilename(), text: readFileSync(await file.path(), 'utf8') }
  }
  expect(await take('Address plan')).toMatchObject({
    name: 'gullhaven-addresses.csv',
    text: expect.stringContaining('60,Guests,10.61.6.0/23,10.61.6.1,serve'),
  })
  expect(await take('Port map')).toMatchObject({
    name: 'gullhaven-ports.csv',
    text: expect.stringContaining('Laboratory switch,25,trunk,99,10 20 30 40 50 60,Gateway,4'),
  })
  const file = await take('Site file')
  expect(JSON.parse(file.text)).toMatchObject({
    format: 'able-mast-plan',
    version: PLAN_VERSION,
    site: { name: 'Gullhaven Tidal Observatory' },
  })
  await page.getByRole('link', { name: 'Open As-built page' }).click()
  await expect(page.getByRole('heading', { name: 'Gullhaven Tidal Observatory: as built' })).toBeVisible()
  await expect(page.getByRole('row', { name: /Instruments to Servers/ })).toContainText('offset 0.004 s')
  await accessible(page)
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
  for (const name of ['Internet connections', 'Wi-Fi', 'Tunnels', /^Run of the tests/, 'Open findings'])
    await expect(page.getByRole('heading', { name })).toBeVisible()
  expect((await page.pdf()).length).toBeGreaterThan(20_000)
})
