import type { Page } from '@playwright/test'
import { accessible, accessibleDayAndNight, expect, signIn, test } from './fixtures'

// What stands outside of any site: its pages and dialogs by day and by night, and what is done there.

let count = Date.now() % 100_000
const headersOf = (base: string | undefined) => ({ origin: base ?? '' })

/** Opens a dialog, looks at it, and leaves it as it was. */
async function look(page: Page, opener: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: opener }).first().click()
  await expect(page.getByRole('dialog')).toBeVisible()
  await accessibleDayAndNight(page, '[role="dialog"]')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
}

/** Pages by their link, with what they open. */
const PAGES: readonly (readonly [link: string, openers: readonly (string | RegExp)[]])[] = [
  ['Sites', ['New site', 'Take over a site']],
  ['People', ['Add a person', /^Sites of /, /^Remove /, 'The organisation']],
  ['Webhooks', ['Add a webhook']],
  ['Audit', []],
  ['Organisations', ['Add an organisation']],
  ['Your account', ['Set up an authenticator app', 'Make a token']],
]

test('every page outside of a site, by day and by night', async ({ page }) => {
  await signIn(page, 'Administrator')
  for (const [link, openers] of PAGES)
    await test.step(link, async () => {
      await page.getByRole('link', { name: link, exact: true }).click()
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(link)
      await accessibleDayAndNight(page)
      for (const opener of openers) await look(page, opener)
    })
})

test('sites are found by what is left, and say how they stand', async ({ page }) => {
  await signIn(page, 'Administrator')
  const sites = page.getByLabel('Sites', { exact: true })
  const row = sites.getByRole('row').filter({ hasText: 'Gullhaven Tidal Observatory' }).first()
  await expect(row).toContainText(/of 44/)
  await expect(row).toContainText('facts missing')
  await page.getByRole('textbox', { name: 'Filter Sites' }).fill('quay')
  await expect(sites.getByRole('link')).toHaveText([/Quayside/])
})

test('a program asks by a token that is made, and not once it was ended', async ({
  page,
  request,
  baseURL,
}) => {
  await signIn(page, 'Planner')
  await page.getByRole('link', { name: 'Your account' }).click()
  await page.getByRole('button', { name: 'Make a token' }).press('Enter')
  await page.keyboard.type('Nightly export')
  await page.getByLabel('Your password', { exact: true }).fill('chart-and-pencil')
  await page.keyboard.press('Enter')
  const token = await page.getByRole('textbox', { name: 'Token' }).inputValue()
  expect(token).toMatch(/^mast_/)
  await page.getByRole('button', { name: 'Done' }).click()
  const table = page.getByRole('table', { name: 'API tokens' })
  await expect(table).toContainText('Nightly export')
  await accessible(page)
  const headers = { authorization: `Bearer ${token}` }
  const ask = async () => (await request.get(`${baseURL}/api/sites/gullhaven/plan`, { headers })).status()
  expect(await ask()).toBe(200)
  await page.getByRole('button', { name: 'End the token Nightly export' }).click()
  await expect(table).toHaveCount(0)
  expect(await ask()).toBe(401)
})

test('a site goes to another organisation by a code', async ({ page, browser, baseURL }) => {
  await signIn(page, 'Administrator')
  const headers = headersOf(baseURL)
  count += 1
  const [site, works] = [`Jetty ${count}`, `Works ${count}`]
  await page.request.post('/api/sites/carrow/copy', { data: { name: site }, headers })
  const made = await page.request.post('/api/organisations', {
    data: { name: works, administrator: `Head ${count}` },
    headers,
  })
  const { link } = (await made.json()) as { link: { path: string } }
  await page.reload()
  await page.getByRole('button', { name: `More of ${site}` }).click()
  await page.getByText('Transfer', { exact: true }).click()
  await page.getByRole('button', { name: 'Make a code' }).click()
  await accessibleDayAndNight(page, '[role="dialog"]')
  const code = await page.getByRole('textbox', { name: 'Code' }).inputValue()
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByRole('link', { name: site })).toBeVisible()

  const theirs = await (await browser.newContext()).newPage()
  await theirs.goto(link.path)
  await theirs.getByLabel('Password', { exact: true }).fill('walrus-teapot-gravel-noon')
  await theirs.getByRole('button', { name: 'Choose it and sign in' }).click()
  await expect(theirs.getByText(works)).toBeVisible()
  await expect(theirs.getByRole('link', { name: site })).toHaveCount(0)
  await theirs.getByRole('button', { name: 'Take over a site' }).press('Enter')
  await theirs.keyboard.type('not this one')
  await theirs.keyboard.press('Enter')
  await expect(theirs.getByText('Not taken over')).toBeVisible()
  await theirs.getByRole('textbox', { name: 'Code' }).fill(code)
  await theirs.keyboard.press('Enter')
  await theirs.getByRole('link', { name: site }).click()
  await expect(theirs.getByRole('grid', { name: 'Networks' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('link', { name: /Gullhaven Tidal/ }).first()).toBeVisible()
  await expect(page.getByRole('link', { name: site })).toHaveCount(0)
})

test('a webhook is added by keys alone, tried, paused and removed, and a private address refused', async ({
  page,
}) => {
  await signIn(page, 'Administrator')
  await page.getByRole('link', { name: 'Webhooks' }).click()
  await expect(page.getByText('None yet: nobody is told anything.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a webhook' }).press('Enter')
  await page.keyboard.type('https://10.0.0.5/hook')
  await page.keyboard.press('Enter')
  await expect(page.getByText('that address is within a private network')).toBeVisible()
  count += 1
  const url = `https://hook-${count}.invalid/able-mast`
  await page.getByLabel('URL').fill(url)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Secret' })).toHaveValue(/^whsec_/)
  await accessibleDayAndNight(page, '[role="dialog"]')
  await page.getByRole('button', { name: 'Done' }).press('Enter')
  const line = page.getByLabel('Webhooks', { exact: true }).getByRole('row').filter({ hasText: url })
  await expect(line).toContainText('nothing sent yet')
  // A name that never is one (RFC 6761, 6.4).
  await page.getByRole('button', { name: `Send ${url} a trial message` }).press('Enter')
  await expect(line).toContainText('could not be reached')
  await page.getByRole('button', { name: `Pause ${url}` }).press('Enter')
  await expect(line).toContainText('paused')
  await page.getByRole('button', { name: `Resume ${url}` }).press('Enter')
  await expect(line).toContainText('sending')
  await page.getByRole('button', { name: `Remove ${url}` }).press('Enter')
  await expect(line).toHaveCount(0)
})
