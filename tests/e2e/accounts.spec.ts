import type { Browser, Page } from '@playwright/test'
import { accessible, expect, signIn, test } from './fixtures'

const PASSWORD = 'walrus-teapot-gravel-noon'
const OTHER = 'lantern-biscuit-gable-moss'

const fresh = async (browser: Browser): Promise<Page> => (await browser.newContext()).newPage()
let count = Date.now() % 100_000
const newName = () => `Ada ${(count += 1)}`

/** Adds somebody from the keyboard, and answers the link that is shown. */
async function added(page: Page, name: string): Promise<string> {
  await page.getByRole('link', { name: 'People' }).click()
  await page.getByRole('button', { name: 'Add a person' }).press('Enter')
  await page.keyboard.type(name)
  await page.keyboard.press('Enter')
  const link = page.getByRole('textbox', { name: 'Link' })
  await expect(link).toHaveValue(/\/join#/)
  return link.inputValue()
}

test('somebody is added, comes in by the link once, and is disabled and removed', async ({
  page,
  browser,
}) => {
  await signIn(page, 'Administrator')
  const name = newName()
  const link = await added(page, name)
  await accessible(page)
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(personRow(page, name)).toContainText('link not opened yet')
  await accessible(page)

  const theirs = await fresh(browser)
  await theirs.goto(link)
  await expect(theirs.getByRole('heading', { name: 'Welcome to Able Mast' })).toBeVisible()
  const enter = theirs.getByRole('button', { name: 'Choose it and sign in' })
  await theirs.getByLabel('Password', { exact: true }).fill('password1234')
  await expect(theirs.getByText('Easy to guess')).toBeVisible()
  await expect(enter).toBeDisabled()
  await theirs.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await expect(theirs.getByText('Hard to guess')).toBeVisible()
  await accessible(theirs)
  await theirs.keyboard.press('Enter')
  await expect(theirs.getByRole('heading', { name: 'Sites' })).toBeVisible()
  await expect(theirs.getByRole('link', { name: 'People' })).toHaveCount(0)
  await theirs.goto('/people')
  await expect(theirs.getByRole('heading', { name: 'Sites' })).toBeVisible()

  const again = await fresh(browser)
  await again.goto(link)
  await expect(again.getByRole('alert')).toContainText('it was used already')

  await page.reload()
  await expect(personRow(page, name)).toContainText('can sign in')
  await page.getByRole('button', { name: `Disable ${name}` }).click()
  await expect(personRow(page, name)).toContainText('disabled')
  await theirs.goto('/')
  await expect(theirs.getByRole('heading', { name: 'Able Mast' })).toBeVisible()
  await page.getByRole('button', { name: `Remove ${name}` }).click()
  await accessible(page)
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(personRow(page, name)).toHaveCount(0)
})

const personRow = (page: Page, text: string) =>
  page.getByLabel('People', { exact: true }).getByRole('row').filter({ hasText: text })

test('a password is changed, and a browser elsewhere signed out', async ({ page, browser }) => {
  await signIn(page, 'Administrator')
  const name = newName()
  const link = await added(page, name)
  const [here, elsewhere] = [await fresh(browser), await fresh(browser)]
  await here.goto(link)
  await here.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await here.getByRole('button', { name: 'Choose it and sign in' }).click()
  await elsewhere.goto('/sign-in')
  await elsewhere.getByLabel('Name').fill(name)
  await elsewhere.getByLabel('Password').fill(PASSWORD)
  await elsewhere.getByRole('button', { name: 'Sign in' }).click()
  await expect(elsewhere.getByRole('heading', { name: 'Sites' })).toBeVisible()
  await here.getByRole('link', { name: 'Your account' }).click()
  await expect(here.getByRole('row').filter({ hasText: '127.0.0.1' })).toHaveCount(2)
  await accessible(here)
  await here.getByLabel('Password until now').fill('not this one')
  await here.getByLabel('New password').fill(OTHER)
  await here.getByRole('button', { name: 'Change password' }).click()
  await expect(here.getByText('the password until now is another')).toBeVisible()
  await here.getByLabel('Password until now').fill(PASSWORD)
  await here.getByRole('button', { name: 'Change password' }).click()
  await expect(here.getByText('Changed.')).toBeVisible()
  await expect(here.getByRole('row').filter({ hasText: '127.0.0.1' })).toHaveCount(1)
  await elsewhere.goto('/')
  await expect(elsewhere.getByRole('heading', { name: 'Able Mast' })).toBeVisible()
  await elsewhere.getByLabel('Name').fill(name)
  await elsewhere.getByLabel('Password').fill(OTHER)
  await elsewhere.getByRole('button', { name: 'Sign in' }).click()
  await expect(elsewhere.getByRole('heading', { name: 'Sites' })).toBeVisible()
})

test('a site is archived, brought back, deleted by its name, and restored', async ({ page, baseURL }) => {
  await signIn(page, 'Administrator')
  const name = `Outpost ${(count += 1)}`
  const headers = { origin: baseURL ?? '' }
  await page.request.post('/api/sites/carrow/copy', { data: { name }, headers })
  await page.reload()
  const more = page.getByRole('button', { name: `More of ${name}` })
  const inTable = (label: string) =>
    page.getByLabel(label, { exact: true }).getByRole('row').filter({ hasText: name })
  await more.press('Enter')
  await expect(page.getByText('Archive', { exact: true })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(inTable('Archived sites')).toBeVisible()
  await expect(inTable('Sites')).toHaveCount(0)
  await more.click()
  await page.getByText('Bring back from the archive').click()
  await expect(inTable('Sites')).toContainText('Administrator')
  await more.click()
  await page.getByText('Delete', { exact: true }).click()
  const confirm = page.getByRole('button', { name: 'Delete', exact: true })
  await expect(confirm).toBeDisabled()
  await accessible(page)
  await page.keyboard.type(name)
  await page.keyboard.press('Enter')
  await expect(inTable('Deleted sites')).toContainText('Administrator')
  await expect(inTable('Sites')).toHaveCount(0)
  await accessible(page)
  await page.getByRole('button', { name: `Restore ${name}` }).click()
  await expect(inTable('Sites')).toBeVisible()
  await page.getByRole('link', { name }).click()
  await expect(page.getByText('rev 1, saved')).toBeVisible()
})

test('who did what is read, filtered by keys, and checked', async ({ page }) => {
  await signIn(page, 'Administrator')
  await page.getByRole('link', { name: 'Audit' }).press('Enter')
  const lines = page.getByLabel('Audit', { exact: true }).getByRole('row')
  await expect(
    lines.filter({ hasText: 'Administrator' }).filter({ hasText: 'signed in' }).first(),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Check the chain' }).press('Enter')
  await expect(page.getByText(/each as it was written and none missing/)).toBeVisible()
  await accessible(page)
  await page.getByRole('textbox', { name: 'Who' }).fill('Nobody who was ever here')
  await expect(page.getByText('No line matches.')).toBeVisible()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export CSV' }).click()
  expect((await download).suggestedFilename()).toBe('audit.csv')
})
