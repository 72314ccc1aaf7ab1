import type { Page } from '@playwright/test'
import people from '../../server/demo/people.json' with { type: 'json' }
import { freePort, startThrowAway } from '../../tools/postgres.mjs'
import { startServer } from '../../tools/server.mjs'
import { mailEnv, startStandInMail, type StandInMail } from '../stand-in-mail'
import { providerEnv, startStandInProvider } from '../stand-in-provider'
import { accessible, expect, signIn, test } from './fixtures'

// A server of its own that knows a provider, and the stand-in as a page that a browser goes to and comes back from;
// and a mail server.

const [port, providerPort, mailPort] = [await freePort(), await freePort(), await freePort()]
const url = `http://127.0.0.1:${port}`
test.use({ baseURL: url, sentTo: `http://127.0.0.1:${providerPort}` })
let provider: Awaited<ReturnType<typeof startStandInProvider>>
let mail: StandInMail
let stop: () => Promise<void> = () => Promise.resolve()
test.beforeAll(async () => {
  const database = await startThrowAway()
  provider = await startStandInProvider(providerPort)
  mail = await startStandInMail(mailPort)
  const env = { MAST_DEMO: '1', ...mailEnv('127.0.0.1', mailPort, url), ...providerEnv(provider.url, url) }
  const serverKey = 'a-password-for-tests-of-32-letters'
  const server = startServer({ host: '127.0.0.1', port, database, serverKey, env })
  stop = async () => {
    server.child.kill('SIGTERM')
    await server.ended
    await provider.stop()
    await mail.stop()
    await database.stop()
  }
  await server.ready
})
test.afterAll(() => stop())

const planner = people.find(({ role }) => role === 'planner') ?? { name: '', password: '' }
async function signOut(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Able Mast' })).toBeVisible()
}
const goes = async (page: Page, name = 'Use Harbour Login'): Promise<void> => {
  await page.getByRole('button', { name }).press('Enter')
  await page.getByRole('link', { name: 'Continue' }).press('Enter')
}

test('somebody new comes in by the provider, by keys alone, and never has a password', async ({ page }) => {
  await signIn(page, 'Administrator')
  const made = await page.request.post('/api/people', {
    data: { name: 'Pilot', role: 'rigger' },
    headers: { origin: url },
  })
  const { link } = (await made.json()) as { link: { path: string } }
  await signOut(page)
  provider.subject = 'pilot-at-harbour'
  await page.goto(link.path)
  await expect(page.getByText('or choose a password:')).toBeVisible()
  await accessible(page)
  await goes(page)
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()
  expect(page.url(), 'what the provider sent is not left in the address').not.toContain('code=')
  await page.getByRole('link', { name: 'Your account' }).click()
  await expect(page.getByText('You have none, and sign in by single sign-on.')).toBeVisible()
  await expect(page.getByText('you have no other way in')).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Make a token' }).press('Enter')
  await page.keyboard.type('Nightly')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Token' })).toHaveValue(/^mast_/)
  await page.getByRole('button', { name: 'Done' }).press('Enter')
  await signOut(page)
  await goes(page)
  await expect(page.getByText('Pilot, rigger')).toBeVisible()
})

test('an account is connected by its password, and a stranger is told what to do', async ({ page }) => {
  provider.subject = 'planner-at-harbour'
  await page.goto('/sign-in')
  await accessible(page)
  await goes(page)
  await expect(page.getByRole('heading', { name: 'Not signed in' })).toBeVisible()
  await expect(page.getByText(/nobody here is connected with your account at Harbour Login/i)).toBeVisible()
  await accessible(page)
  await page.getByRole('link', { name: 'To the sign-in page' }).click()
  await signIn(page, 'Planner')
  await page.getByRole('link', { name: 'Your account' }).click()
  await page.getByRole('button', { name: 'Connect Harbour Login' }).press('Enter')
  await page.keyboard.type(planner.password)
  await page.keyboard.press('Enter')
  await page.getByRole('link', { name: 'Continue' }).press('Enter')
  await expect(page.getByText('You sign in by Harbour Login, connected')).toBeVisible()
  await signOut(page)
  await goes(page)
  await expect(page.getByRole('heading', { name: 'Sites' })).toBeVisible()
  await page.getByRole('link', { name: 'Your account' }).click()
  await page.getByRole('button', { name: 'Remove Harbour Login' }).press('Enter')
  await page.keyboard.type(planner.password)
  await page.keyboard.press('Enter')
  await expect(page.getByText('Not connected to Harbour Login.')).toBeVisible()
})

test('an answer that nobody asked for is refused in words', async ({ page }) => {
  await page.goto('/single-sign-on')
  await expect(page.getByText('nobody was sent there')).toBeVisible()
  await page.goto('/single-sign-on?code=a&state=sign-in.b')
  await expect(page.getByText(/this browser did not ask for it/i)).toBeVisible()
})

test('a link is sent by mail from where it is shown, by keys alone, and brings somebody in', async ({
  page,
}) => {
  await signIn(page, 'Administrator')
  await page.goto('/people')
  await page.getByRole('button', { name: 'Add a person' }).press('Enter')
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused()
  await page.keyboard.type('Sailmaker')
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Link for Sailmaker' })
  const address = dialog.getByRole('textbox', { name: 'Mail address' })
  await address.focus()
  await page.keyboard.type('sail@nowhere.example')
  await page.keyboard.press('Enter')
  await expect(dialog.getByRole('alert')).toHaveText(
    'Not sent: the mail server does not take mail for that address.',
  )
  await page.keyboard.press('Control+a')
  await page.keyboard.type('sail@loft.example')
  await page.keyboard.press('Enter')
  await expect(dialog.getByRole('status')).toHaveText('Sent to sail@loft.example.')
  await expect(dialog.getByRole('alert')).toHaveCount(0)
  await accessible(page, '[role="dialog"]')
  await page.keyboard.press('Enter')
  await expect(dialog).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Add a person' })).toBeFocused()
  await signOut(page)
  const [link = ''] = /http\S+/.exec(mail.taken[0]?.text ?? '') ?? []
  await page.goto(link)
  await expect(page.getByText('Sailmaker')).toBeVisible()
})
