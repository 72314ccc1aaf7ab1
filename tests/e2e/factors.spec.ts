import type { Page } from '@playwright/test'
import { TOTP, URI } from 'otpauth'
import { accessible, expect, signIn, test } from './fixtures'

const PASSWORD = 'walrus-teapot-gravel-noon'
let count = Date.now() % 100_000

/** Somebody new, signed in on the page; their name. */
async function newcomer(
  page: Page,
  base: string,
  role: string | null = 'rigger',
  sites: object[] = [],
): Promise<string> {
  await signIn(page, 'Administrator')
  const name = `Kit ${(count += 1)}`
  const headers = { origin: base }
  const made = await page.request.post('/api/people', { data: { name, role, sites }, headers })
  const { link } = (await made.json()) as { link: { path: string } }
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Able Mast' })).toBeVisible()
  await page.goto(link.path)
  await page.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await page.getByRole('button', { name: 'Choose it and sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()
  return name
}
async function signOut(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Sign out' }).first().click()
  await expect(page.getByRole('heading', { name: 'Able Mast' })).toBeVisible()
}

test('an authenticator app is set up by keys alone, asked for, and a recovery code used', async ({
  page,
  baseURL,
}) => {
  const name = await newcomer(page, baseURL ?? '')
  await page.getByRole('link', { name: 'Your account' }).click()
  await expect(page.getByText('None yet: whoever knows your password')).toBeVisible()
  await page.getByRole('button', { name: 'Set up an authenticator app' }).press('Enter')
  await page.keyboard.type(PASSWORD)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('img', { name: 'Code to scan' })).toBeVisible()
  await accessible(page)
  const secret = ((await page.locator('.secret').textContent()) ?? '').replaceAll(' ', '')
  const app = URI.parse(`otpauth://totp/test?secret=${secret}`) as TOTP
  await page.keyboard.type('000000')
  await page.keyboard.press('Enter')
  await expect(page.getByText('that code is not valid')).toBeVisible()
  await page.getByLabel('Code that the app shows').fill(app.generate({ timestamp: Date.now() - 30_000 }))
  await page.keyboard.press('Enter')
  const recovery = page.getByRole('list', { name: 'Recovery codes' }).getByRole('listitem')
  await expect(recovery).toHaveCount(10)
  await accessible(page)
  const [first] = await recovery.allTextContents()
  await page.getByRole('button', { name: 'I have kept them' }).click()
  await expect(page.getByText('10 recovery codes left')).toBeVisible()

  await signOut(page)
  await page.getByLabel('Name').fill(name)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.keyboard.press('Enter')
  const code = page.getByLabel('Code of your app, or a recovery code')
  await expect(code).toBeFocused()
  await accessible(page)
  await page.keyboard.type(app.generate())
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()

  await signOut(page)
  await page.getByLabel('Name').fill(name)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.keyboard.press('Enter')
  await code.fill(first ?? '')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()
  await page.getByRole('link', { name: 'Your account' }).click()
  await expect(page.getByText('9 recovery codes left')).toBeVisible()
})

test('a passkey signs in without a password, and without it the password is not enough', async ({
  browser,
  baseURL,
}) => {
  // Browsers use passkeys by a name, not at a bare address.
  const base = (baseURL ?? '').replace('127.0.0.1', 'localhost')
  const context = await browser.newContext({ baseURL: base })
  const page = await context.newPage()
  const devtools = await context.newCDPSession(page)
  await devtools.send('WebAuthn.enable')
  await devtools.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  const name = await newcomer(page, base)
  await page.getByRole('link', { name: 'Your account' }).click()
  await page.getByRole('button', { name: 'Add a passkey' }).click()
  await expect(page.getByLabel('What you call it')).toBeFocused()
  await page.getByLabel('What you call it').fill('Bench laptop')
  await page.getByLabel('Your password', { exact: true }).fill(PASSWORD)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('list', { name: 'Recovery codes' })).toBeVisible()
  await page.getByRole('button', { name: 'I have kept them' }).click()
  await expect(page.getByLabel('Passkeys', { exact: true })).toContainText('Bench laptop')
  await accessible(page)

  await signOut(page)
  await page.getByLabel('Name').fill(name)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(page.getByLabel('Code of your app, or a recovery code')).toBeVisible()
  await page.getByRole('button', { name: 'Use a passkey' }).click()
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()

  await page.getByRole('link', { name: 'Your account' }).click()
  await page.getByRole('button', { name: 'Remove the passkey Bench laptop' }).click()
  await page.getByLabel('Your password', { exact: true }).fill(PASSWORD)
  await page.keyboard.press('Enter')
  await expect(page.getByText('None yet: whoever knows your password')).toBeVisible()
  await signOut(page)
  await page.getByRole('button', { name: 'Use a passkey' }).click()
  await expect(page.getByRole('alert')).toContainText('the passkey was not accepted')
  await context.close()
})

test('somebody at one site sees that alone, and edits there; an organisation is added and left empty', async ({
  page,
  baseURL,
}) => {
  await newcomer(page, baseURL ?? '', null, [{ site: 'carrow', role: 'planner' }])
  await expect(page.getByText('at 1 site')).toBeVisible()
  await expect(page.getByLabel('Sites', { exact: true }).getByRole('link')).toHaveText([/Carrow/])
  await expect(page.getByRole('button', { name: 'New site' })).toHaveCount(0)
  await page.getByRole('link', { name: /Carrow/ }).click()
  await expect(page.getByRole('button', { name: 'Add a network' })).toBeVisible()
  await page.goto('/sites/gullhaven/addresses')
  await expect(page.getByText('there is no such site')).toBeVisible()

  await page.goto('/account')
  await signOut(page)
  await signIn(page, 'Administrator')
  await page.getByRole('link', { name: 'Organisations' }).click()
  const name = `Works ${(count += 1)}`
  await page.getByRole('button', { name: 'Add an organisation' }).press('Enter')
  await page.keyboard.type(name)
  await page.keyboard.press('Tab')
  await page.keyboard.type(`Head ${count}`)
  await accessible(page)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Link' })).toHaveValue(/\/join#/)
  await page.getByRole('button', { name: 'Done' }).click()
  const row = page.getByLabel('Organisations', { exact: true }).getByRole('row').filter({ hasText: name })
  await expect(row).toContainText('1')
  await accessible(page)
  await page.getByRole('button', { name: `Remove ${name}` }).click()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(row).toHaveCount(0)
})

/** Sets up an authenticator app on the account page, by keys alone. */
async function setUpApp(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Set up an authenticator app' }).press('Enter')
  await page.keyboard.type(PASSWORD)
  await page.keyboard.press('Enter')
  const secret = ((await page.locator('.secret').textContent()) ?? '').replaceAll(' ', '')
  const app = URI.parse(`otpauth://totp/test?secret=${secret}`) as TOTP
  await page.getByLabel('Code that the app shows').fill(app.generate())
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'I have kept them' }).press('Enter')
  await expect(page.getByText('10 recovery codes left')).toBeVisible()
}
async function joins(page: Page, path: string): Promise<void> {
  await page.goto(path)
  await page.getByLabel('Password', { exact: true }).fill(PASSWORD)
  await page.getByRole('button', { name: 'Choose it and sign in' }).click()
}

test('an organisation asks everybody for a second factor, and whoever has none sets one up first', async ({
  page,
  browser,
  baseURL,
}) => {
  await signIn(page, 'Administrator')
  count += 1
  const made = await page.request.post('/api/organisations', {
    data: { name: `Strict ${count}`, administrator: `Strict head ${count}` },
    headers: { origin: baseURL ?? '' },
  })
  const { link } = (await made.json()) as { link: { path: string } }
  await signOut(page)
  await joins(page, link.path)
  await page.getByRole('link', { name: 'People' }).click()
  const settle = async () => {
    await page.getByRole('button', { name: 'The organisation' }).press('Enter')
    await page.getByLabel('Everybody has to have a second factor').check()
    await page.getByLabel('Name', { exact: true }).press('Enter')
  }
  await settle()
  await expect(page.getByText('you have none yourself')).toBeVisible()
  await accessible(page, '[role="dialog"]')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'Your account' }).click()
  await setUpApp(page)
  await page.getByRole('link', { name: 'People' }).click()
  await settle()
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.getByRole('button', { name: 'Add a person' }).press('Enter')
  await page.keyboard.type(`Strict hand ${count}`)
  await page.keyboard.press('Enter')
  const path = new URL(await page.getByRole('textbox', { name: 'Link' }).inputValue()).href

  const theirs = await (await browser.newContext()).newPage()
  await joins(theirs, path)
  await expect(theirs.getByText('asks everybody for a second factor: set one up to go on')).toBeVisible()
  await accessible(theirs)
  await theirs.getByRole('link', { name: 'Sites' }).click()
  await expect(theirs.getByRole('heading', { name: 'Your account' })).toBeVisible()
  await setUpApp(theirs)
  await expect(theirs.getByText('asks everybody')).toHaveCount(0)
  await theirs.getByRole('link', { name: 'Sites' }).click()
  await expect(theirs.getByRole('heading', { name: 'Sites' })).toBeVisible()
})
