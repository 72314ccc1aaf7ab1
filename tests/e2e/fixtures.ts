import AxeBuilder from '@axe-core/playwright'
import { test as bare, expect, type Browser, type Locator, type Page } from '@playwright/test'
import people from '../../server/demo/people.json' with { type: 'json' }

export type Name = 'Administrator' | 'Planner' | 'Rigger' | 'Keeper'
export { expect }

/** What every page must keep: no request to another origin than these, no error in its console. */
function guard(
  page: Page,
  origins: readonly string[],
): { readonly strays: string[]; readonly errors: string[] } {
  const strays: string[] = []
  const errors: string[] = []
  page.on('request', (request) => {
    const url = request.url()
    const isOurs = /^(data|blob):/.test(url) || origins.some((origin) => url.startsWith(origin))
    if (!isOurs) strays.push(url)
  })
  page.on('console', (message) => {
    // A refused request is shown by the browser as an error of its own; refusals are tested by what the page
    // says.
    if (message.type() === 'error' && !message.text().startsWith('Failed to load resource'))
      errors.push(message.text())
  })
  page.on('pageerror', (error) => errors.push(error.message))
  return { strays, errors }
}

const passwordOf = (name: Name): string => people.find((person) => person.name === name)?.password ?? ''

export async function signIn(page: Page, name: Name): Promise<void> {
  await page.goto('/sign-in')
  await page.getByLabel('Name').fill(name)
  await page.getByLabel('Password').fill(passwordOf(name))
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()
}

/** A second person in a browser of their own. */
export async function another(browser: Browser, name: Name): Promise<Page> {
  const page = await (await browser.newContext()).newPage()
  await signIn(page, name)
  return page
}

interface Fixtures {
  /** A page that has a planner's session; nothing is open in it yet. */
  readonly planner: Page
  /** Slug of a copy of the demo site that nobody else touches. */
  readonly copy: string
}

export const test = bare.extend<Fixtures & { watched: void; sentTo: string | null }>({
  /** Where a page sends people on purpose, besides our own origin. */
  sentTo: [null, { option: true }],
  watched: [
    async ({ page, baseURL, sentTo }, use) => {
      const seen = guard(page, [baseURL ?? '', ...(sentTo === null ? [] : [sentTo])])
      await use()
      expect(seen.strays, 'requests that left the origin').toEqual([])
      expect(seen.errors, 'errors in the console').toEqual([])
    },
    { auto: true },
  ],
  planner: async ({ page, baseURL }, use) => {
    const data = { name: 'Planner', password: passwordOf('Planner') }
    const answer = await page.request.post('/api/sign-in', { data, headers: { origin: baseURL ?? '' } })
    expect(answer.ok()).toBe(true)
    await use(page)
  },
  copy: async ({ planner, baseURL }, use) => {
    const file = await (await planner.request.get('/api/sites/gullhaven/export/site.json')).text()
    const made = await planner.request.post('/api/sites', {
      data: { text: file },
      headers: { origin: baseURL ?? '' },
    })
    await use(((await made.json()) as { slug: string }).slug)
  },
})

export const row = (page: Page, table: string, text: string): Locator =>
  page.getByRole('grid', { name: table }).getByRole('row').filter({ hasText: text })
export const lookout = (page: Page): Locator => page.getByRole('complementary', { name: 'Lookout' })
export const saved = (page: Page, revision: number) =>
  expect(page.getByText(`rev ${revision}, saved`)).toBeVisible()

/** The letter after `g` that leads to each sheet, and its heading. */
export const SHEET_KEYS = [
  ['b', 'Brief'],
  ['e', 'Equipment'],
  ['a', 'Addresses'],
  ['l', 'Loom'],
  ['c', 'Cables'],
  ['w', 'Power'],
  ['u', 'Uplinks'],
  ['i', 'Bridges'],
  ['m', 'Wi-Fi'],
  ['y', 'Aiming'],
  ['x', 'Run sheet'],
  ['j', 'Field cards'],
  ['n', 'Tunnels'],
  ['s', 'Rules'],
  ['r', 'Reach grid'],
  ['t', 'Weather table'],
  ['f', 'Device files'],
  ['o', 'Roster'],
  ['p', 'Acceptance tests'],
  ['d', 'Diagnose'],
  ['h', 'As-built papers'],
  ['v', 'Revisions'],
] as const

/** Cell of an editable table, by what stands in its row and by the column's number. */
export const cell = (page: Page, table: string, text: string, column: number): Locator =>
  row(page, table, text).getByRole('gridcell').nth(column)

/** Chooses from a list by the words that one reads; what is not a grid's own cell is such a list. */
export async function choose(
  scope: Page | Locator,
  list: string | RegExp,
  choice: string | RegExp,
): Promise<void> {
  const page = 'page' in scope ? scope.page() : scope
  const field = scope.getByRole('combobox', { name: list, exact: true })
  await field.press('ArrowDown')
  const option = page.getByRole('option', { name: choice, exact: typeof choice === 'string' })
  if (typeof choice === 'string' && (await field.isEditable())) await field.fill(choice)
  // A long list draws only what is in sight, and draws anew while it scrolls.
  await page.keyboard.press('Home')
  await expect(async () => {
    // On a busy machine a click may have closed the list without having been seen to.
    if (!(await page.getByRole('listbox').last().isVisible())) await field.press('ArrowDown')
    if (!(await option.first().isVisible())) await page.keyboard.press('ArrowDown')
    await option.first().click({ timeout: 2000 })
  }).toPass({ intervals: [20] })
  await expect(option.first()).toBeHidden()
}

/** As wide and high as a telephone. */
export const PHONE = { width: 390, height: 844 }

/** Opens a field card from the list of all. */
export async function turnTo(page: Page, title: RegExp): Promise<void> {
  const all = page.getByRole('button', { name: /^All \d+ steps/ })
  if ((await all.getAttribute('aria-expanded')) !== 'true') await all.click()
  await page.getByRole('listitem').filter({ hasText: title }).first().getByRole('button').first().click()
  await expect(page.getByRole('article').getByRole('heading')).toHaveText(title)
}

/**
 * No serious or critical finding of axe (WCAG 2.2 A and AA and best practice rules).
 * `within`: a part of the page alone, where the rest was asked before; `rules`: those alone, otherwise all.
 */
export async function accessible(page: Page, within?: string, rules?: string[]): Promise<void> {
  // No frames of other origins here, so in the page itself; what is right is not written out.
  const axe = new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], ...(rules && { runOnly: rules }) })
  const { violations } = await (within === undefined ? axe : axe.include(within)).analyze()
  const grave = violations.filter((v) => v.impact === 'serious' || v.impact === 'critical')
  expect(
    grave.map(
      (result) =>
        `${result.id}: ${result.nodes
          .slice(0, 3)
          .map((n) => n.target.join(' '))
          .join(' | ')}`,
    ),
  ).toEqual([])
}

/** Day or night from another tab of the same browser: what is open here stays open. */
async function turnLights(page: Page, theme: 'day' | 'night'): Promise<void> {
  await page.evaluate((newValue) => {
    const key = 'mast-watch'
    localStorage.setItem(key, newValue)
    dispatchEvent(new StorageEvent('storage', { key, newValue, storageArea: localStorage }))
  }, theme)
  await expect(page.locator('.v-application')).toHaveClass(new RegExp(`v-theme--${theme}`))
}

/** What of the page is asked by night: the theme changes colours alone. */
export const accessibleByNight = (page: Page, within?: string): Promise<void> =>
  accessible(page, within, ['color-contrast', 'link-in-text-block'])

/** The same by day and by night. */
export async function accessibleDayAndNight(page: Page, within?: string): Promise<void> {
  await accessible(page, within)
  await turnLights(page, 'night')
  await accessibleByNight(page, within)
  await turnLights(page, 'day')
}

/** Turns the lights down, as a person does for a watch at night. */
export async function toNight(page: Page, who: Name = 'Planner'): Promise<void> {
  await page.getByRole('button', { name: who }).click()
  await page.getByText('Night watch').click()
  await expect(page.locator('.v-application')).toHaveClass(/v-theme--night/)
  await page.keyboard.press('Escape')
}
