import type { Page } from '@playwright/test'
import {
  accessible,
  accessibleByNight,
  accessibleDayAndNight,
  expect,
  SHEET_KEYS,
  test,
  toNight,
} from './fixtures'

// Every sheet and its dialogs, by day and by night, held against WCAG 2.2; and as somebody sees them who needs
// letters four times as large (success criterion 1.4.10: 320 CSS pixels wide without scrolling in two directions).

const DIALOGS: readonly (readonly [letter: string, opener: string | RegExp])[] = [
  ['a', 'Assign subnets'],
  ['a', 'Import CSV'],
  ['l', 'Add a device'],
  ['l', 'Set ports'],
  ['l', 'Mend trunks'],
  ['e', 'Import CSV'],
  ['n', 'Import a file'],
  ['s', 'Rules from intents'],
  ['s', 'From rules'],
  ['e', 'Add a model'],
  ['o', /^Replace or release /],
  ['o', /^Key of /],
  ['p', /^Record /],
  ['m', 'Import a scan'],
  ['m', 'Airtime by station'],
  ['m', 'Import a walk'],
  ['i', 'Import a survey'],
  ['b', 'Import a map'],
]

/** What each letter after `g` leads to. */
const HEADING_OF = new Map<string, string>(SHEET_KEYS)

async function begin(page: Page): Promise<void> {
  await page.goto('/sites/gullhaven/addresses')
  await expect(page.getByRole('grid', { name: 'Networks' })).toBeVisible()
}

async function go(page: Page, letter: string): Promise<void> {
  await page.keyboard.press('g')
  await page.keyboard.press(letter)
  await expect(page.getByRole('heading', { name: HEADING_OF.get(letter), level: 1 })).toBeVisible()
}

/** The sheet itself scrolls in one direction; tables and drawings may have a way of their own. */
async function noneRunsOver(page: Page, { width, height }: { width: number; height: number }): Promise<void> {
  await page.setViewportSize({ width, height })
  // Drawn once with what the page makes of its new width.
  await page.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))))
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width)
  const over = await page
    .getByRole('main')
    .evaluate((main) => main.querySelector('.v-main__scroller')?.scrollWidth ?? main.scrollWidth)
  expect(over).toBeLessThanOrEqual(width)
}

/** The window as it looks to somebody who has letters so many times as large. */
const ENLARGED = [
  { percent: 200, width: 640, height: 400 },
  { percent: 400, width: 320, height: 256 },
]

// By day each sheet is asked where its own tests use it. Mast, header and Lookout are the same on all of them.
test('every sheet can be read by night, and runs over no edge at 200 % and 400 %', async ({
  planner: page,
}) => {
  await begin(page)
  const asUsual = page.viewportSize()
  await toNight(page)
  await accessible(page)
  for (const [letter, heading] of SHEET_KEYS)
    await test.step(heading, async () => {
      await go(page, letter)
      await accessibleByNight(page, 'main')
      for (const size of ENLARGED) await test.step(`${size.percent} %`, () => noneRunsOver(page, size))
      if (asUsual) await page.setViewportSize(asUsual)
    })
  await page.goto('/cards/gullhaven?ssid=guest-ssid')
  await expect(page.getByRole('article')).toBeVisible()
  await accessible(page)
})

/** What the keys open on every sheet. */
const BY_KEY = ['?', 'w', 'Control+k']

async function askDialog(page: Page): Promise<void> {
  await expect(page.getByRole('dialog')).toBeVisible()
  await accessibleDayAndNight(page, '[role="dialog"]')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

/** Tabs behind which a dialog's button stands. */
const TAB_OF: Readonly<Record<string, string | RegExp>> = {
  'From rules': /^Intents/,
  'Add a model': /^Models/,
  'Import a scan': /^Radios/,
  'Airtime by station': /^Radios/,
  'Import a walk': /^Floors/,
  'Import a map': /^Site and places/,
}

async function openEach(page: Page): Promise<void> {
  for (const [letter, opener] of DIALOGS)
    await test.step(String(opener), async () => {
      await go(page, letter)
      const tab = TAB_OF[String(opener)]
      if (tab !== undefined) await page.getByRole('tab', { name: tab }).click()
      await page.getByRole('button', { name: opener }).first().click()
      await askDialog(page)
    })
  for (const key of BY_KEY)
    await test.step(key, async () => {
      await page.keyboard.press(key)
      await askDialog(page)
    })
}

test('so can every dialog by day and by night', async ({ planner: page }) => {
  await begin(page)
  await openEach(page)
  await page.goto('/')
  await accessibleDayAndNight(page)
  await page.getByRole('button', { name: 'New site' }).click()
  await askDialog(page)
})

/** Tables of a sheet to which a row is added, and the tab on which they stand. */
const ADDING: readonly (readonly [letter: string, tab: RegExp | null, button: string, table: string])[] = [
  ['a', null, 'Add a network', 'Networks'],
  ['l', /^Wi-Fi/, 'Add an SSID', 'SSIDs'],
  ['e', null, 'Add a box', 'Boxes'],
  ['b', /^Site and places/, 'Add a room', 'Rooms'],
  ['b', /^Site and places/, 'Add a building', 'Buildings'],
  ['b', /^Needs/, 'Add a need', 'Who and what must be connected'],
  ['u', /^Policy routes/, 'Add a policy route', 'Policy routes'],
  ['u', /^Port forwards/, 'Add a forward', 'Port forwards'],
  ['s', /^Rules/, 'Add a rule', 'Rules'],
  ['s', /^Intents/, 'Add an intent', 'Intents'],
  ['s', /^Services/, 'Add a service', 'Services'],
]
test('what is added has the focus, so that one types on', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/addresses`)
  await expect(page.getByRole('grid', { name: 'Networks' })).toBeVisible()
  for (const [letter, tab, button, table] of ADDING)
    await test.step(button, async () => {
      await go(page, letter)
      if (tab) await page.getByRole('tab', { name: tab }).click()
      await page.getByRole('button', { name: button, exact: true }).click()
      const cells = page.getByRole('grid', { name: table }).getByRole('gridcell')
      await expect(cells.and(page.locator(':focus'))).toHaveCount(1)
      await page.keyboard.press('Control+z')
    })
})

test('a long table is filtered, stays so while a row is edited, and shows what is pointed at', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/loom`)
  await page.getByRole('tab', { name: /^Devices/ }).click()
  const table = page.getByRole('grid', { name: 'Devices' })
  const field = page.getByRole('textbox', { name: 'Filter Devices' })
  await field.fill('laboratory ap')
  await expect(page.getByText(/^\d of \d+ rows$/)).toBeVisible()
  const first = table.getByRole('gridcell').first()
  await expect(first).toContainText('Laboratory AP')
  await accessible(page)
  // What is typed no longer says the words; the row stays until it is finished.
  await first.dblclick()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('Hut')
  await expect(page.getByRole('textbox', { name: 'Name' })).toHaveValue('Hut')
  await page.keyboard.press('Enter')
  await expect(table.getByRole('gridcell', { name: 'Hut', exact: true })).toHaveCount(0)
  await field.fill('no such thing')
  await expect(table.getByText('No row matches.')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(table.getByRole('gridcell', { name: 'Hut', exact: true })).toBeVisible()
})
