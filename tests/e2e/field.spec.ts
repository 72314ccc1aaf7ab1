import { readFileSync, writeFileSync } from 'node:fs'
import { chromium, type BrowserContext, type Page } from '@playwright/test'
import { toDataURL } from 'qrcode'
import { BROWSER_ARGUMENTS, browserPath } from '../../tools/browser.mjs'
import { accessible, another, cell, expect, PHONE, signIn, test, toNight, turnTo } from './fixtures'

const card = (page: Page) => page.getByRole('article')

/** Opens the cards of a site on a telephone and waits until they are kept there. */
async function keptCards(page: Page, slug: string): Promise<void> {
  await page.setViewportSize(PHONE)
  await page.goto(`/sites/${slug}/field-cards`)
  await expect(page.getByText('Kept on this device')).toBeVisible()
  await expect(card(page)).toBeVisible()
}
const told = (page: Page, words: string) => card(page).getByRole('status').filter({ hasText: words })
interface Told {
  readonly activityId: string
  readonly state: string
  readonly note: string
}
const recordsOf = async (page: Page, slug: string): Promise<Told[]> =>
  (await (await page.request.get(`/api/sites/${slug}/steps`)).json()) as Told[]

/** The page is killed, as a battery does, and another is opened. */
async function reopened(context: BrowserContext, page: Page, path: string): Promise<Page> {
  await page.close()
  const next = await context.newPage()
  await next.setViewportSize(PHONE)
  await next.goto(path)
  return next
}

test('the cards open without a network, and what was told reaches the server once', async ({
  planner,
  copy,
  context,
}) => {
  await keptCards(planner, copy)
  await context.setOffline(true)
  let page = await reopened(context, planner, '/field')
  await expect(card(page)).toBeVisible()
  await expect(page.getByText('The server does not answer since')).toBeVisible()
  await accessible(page)
  await toNight(page)
  await accessible(page)
  await turnTo(page, /^Print labels/)
  await card(page).getByRole('button', { name: 'Done' }).click()
  await expect(page.getByText('1 record waits for the server')).toBeVisible()
  await expect(page.getByRole('link', { name: /no server, 1 to send$/ })).toBeVisible()
  page = await reopened(context, page, `/sites/${copy}/loom`)
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
  await expect(page.getByText('1 record waits for the server')).toBeVisible()
  await page.goto(`/sites/${copy}/brief`)
  await page.getByRole('tab', { name: /Before you unplug/ }).click()
  await page.getByRole('checkbox').first().check()
  await expect(page.getByText('2 records wait for the server')).toBeVisible()
  await context.setOffline(false)
  await expect(page.getByText(/waits? for the server/)).toBeHidden()
  await expect(page.getByText('does not answer')).toBeHidden()
  const records = await recordsOf(page, copy)
  expect(records.map(({ activityId, state }) => [activityId, state])).toEqual([['print', 'done']])
})

test('a page that is not kept says so, and leads to what is', async ({ copy, browser }) => {
  const page = await another(browser, 'Planner')
  await keptCards(page, copy)
  await page.context().setOffline(true)
  await page.evaluate(async () => caches.delete('opened-parts'))
  await page.goto(`/sites/${copy}/tunnels`)
  await expect(page.getByText('What you asked for is not kept on this device')).toBeVisible()
  await expect(card(page)).toBeVisible()
  await page.context().close()
})

/** A thousand are tried where this says so; fewer take less of everybody's time, and go the same way. */
const RECORDS = Number(process.env['MAST_RECORDS'] ?? 150)

test('records outlive kills and lost answers: each arrives once, in order', async ({
  planner,
  copy,
  context,
}) => {
  await keptCards(planner, copy)
  const writes = Array.from({ length: RECORDS }, (_, i) => ({
    key: `write-${i}`,
    slug: copy,
    topic: 'steps',
    path: `sites/${copy}/steps`,
    body: {
      activityId: 'print',
      state: i % 2 === 0 ? 'done' : 'open',
      at: '2026-11-01T09:00:00Z',
      reading: '',
      note: `number ${i}`,
      person: '',
    },
    at: '2026-11-01T09:00:00Z',
  }))
  await context.setOffline(true)
  let page = await reopened(context, planner, `/sites/${copy}/field-cards`)
  // As the application keeps them; told one by one they would take long.
  await page.evaluate(async (queue) => {
    const request = indexedDB.open('keyval-store')
    const database = await new Promise<IDBDatabase>((opened) => {
      request.onsuccess = () => opened(request.result)
    })
    const writing = database.transaction('keyval', 'readwrite')
    writing.objectStore('keyval').put(queue, 'outbox/Planner')
    await new Promise((done) => (writing.oncomplete = done))
    database.close()
  }, writes)
  // Of what is sent, every 25th answer is lost: the server has taken it, and the page does not know.
  let sent = 0
  await context.route(/\/steps$/, async (route) => {
    if (route.request().method() !== 'POST') return route.continue()
    const isLost = ++sent % 25 === 0
    if (!isLost) return route.continue()
    await route.fetch().catch(() => null)
    await route.abort().catch(() => null)
  })
  await context.setOffline(false)
  for (let kill = 0; kill < 3; kill++) {
    page = await reopened(context, page, `/sites/${copy}/field-cards`)
    await expect(page.getByText('wait for the server')).toBeVisible()
    await page.waitForTimeout(1500)
  }
  await context.unroute(/\/steps$/)
  await expect(page.getByText(/waits? for the server/)).toBeHidden({ timeout: 200_000 })
  const records = await recordsOf(page, copy)
  expect(records.map(({ note }) => note)).toEqual(writes.map(({ body }) => body.note))
})

test('two people who tell different things of one step are asked which holds', async ({
  planner: page,
  copy,
  context,
  browser,
}) => {
  await keptCards(page, copy)
  await turnTo(page, /^Print labels/)
  await context.setOffline(true)
  await card(page).getByRole('button', { name: 'Skip' }).click()
  await card(page).getByRole('textbox').fill('printed last week')
  await card(page).getByRole('button', { name: 'Skip it' }).click()
  await expect(page.getByText('1 record waits for the server')).toBeVisible()
  await expect(page.getByRole('link', { name: /no server, 1 to send$/ })).toBeVisible()
  const rigger = await another(browser, 'Rigger')
  await rigger.goto(`/sites/${copy}/field-cards`)
  await turnTo(rigger, /^Print labels/)
  await card(rigger).getByRole('button', { name: 'Done' }).click()
  await expect.poll(async () => (await recordsOf(rigger, copy)).length).toBe(1)
  await context.setOffline(false)
  await expect.poll(async () => (await recordsOf(rigger, copy)).length).toBe(2)
  await turnTo(page, /^Print labels/)
  const dispute = card(page).getByRole('alert').filter({ hasText: 'which holds' })
  await expect(dispute).toBeVisible()
  await accessible(page, 'main')
  await dispute.getByRole('button', { name: /^Rigger says done/ }).click()
  await expect(dispute).toBeHidden()
  await expect(told(page, 'done by Planner')).toBeVisible()
  await expect
    .poll(async () => (await recordsOf(page, copy)).map(({ state }) => state))
    .toEqual(['done', 'skipped', 'done'])
  await rigger.context().close()
})

test('a card says what the plan changed while it was looked at, and since it was done', async ({
  planner: page,
  copy,
  browser,
}) => {
  const desk = await another(browser, 'Planner')
  await desk.goto(`/sites/${copy}/addresses`)
  await page.goto(`/sites/${copy}/field-cards`)
  await turnTo(page, /^Set up Laboratory switch/)
  const change = async (text: string) => {
    await cell(desk, 'Networks', 'Management', 4).dblclick()
    await desk.getByRole('textbox', { name: 'Gateway' }).fill(text)
    await desk.keyboard.press('Enter')
  }
  await change('10.61.0.2')
  const changed = card(page).getByRole('alert').filter({ hasText: 'The plan has changed while you looked' })
  await expect(changed).toContainText('10.61.0.2')
  await changed.getByRole('button', { name: 'Understood' }).click()
  await expect(changed).toBeHidden()
  await card(page).getByRole('button', { name: 'Done' }).click()
  await expect.poll(async () => (await recordsOf(page, copy)).length).toBe(1)
  // What comes next is shown once the answer is there, and is not what one turns back from.
  await expect(card(page).getByRole('heading')).not.toHaveText(/^Set up Laboratory switch/)
  await turnTo(page, /^Set up Laboratory switch/)
  await change('10.61.0.3')
  const since = card(page).getByRole('alert').filter({ hasText: 'since this was told' })
  await expect(since).toContainText('10.61.0.3')
  await accessible(page, 'main')
  await since.getByRole('button', { name: 'It still holds' }).click()
  await expect(since).toBeHidden()
  await desk.context().close()
})

/** A picture of one colour with a code in it, as a JPEG; drawn by the browser. */
const pictureOf = (page: Page, text: string): Promise<Buffer> =>
  toDataURL(text, { width: 400, margin: 4 }).then(async (code) => {
    const jpeg = await page.evaluate(async (source) => {
      const image = new Image()
      image.src = source
      await image.decode()
      const canvas = document.createElement('canvas')
      ;[canvas.width, canvas.height] = [1600, 1200]
      const context = canvas.getContext('2d')
      if (context) context.fillStyle = '#dddddd'
      context?.fillRect(0, 0, canvas.width, canvas.height)
      context?.drawImage(image, 600, 400)
      return canvas.toDataURL('image/jpeg', 0.95)
    }, code)
    return Buffer.from(jpeg.split(',')[1] ?? '', 'base64')
  })

test('outdoors nobody begins without having read the wind, or above its limit', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/field-cards`)
  await turnTo(page, /^Mount Skerry bridge, end A/)
  const start = card(page).getByRole('button', { name: 'Start', exact: true })
  await expect(start).toBeDisabled()
  await card(page).getByRole('textbox').fill('12.5')
  await expect(card(page).getByText('above the limit of 12 m/s')).toBeVisible()
  await expect(start).toBeDisabled()
  await card(page).getByRole('textbox').fill('7.5')
  await start.click()
  await expect(told(page, 'begun by Planner')).toContainText('7.5')
})

test('a photograph of a step is scaled down, kept, and sent when there is a network', async ({
  planner: page,
  copy,
  context,
}) => {
  await keptCards(page, copy)
  await turnTo(page, /^Print labels/)
  const picture = await pictureOf(page, 'evidence')
  await context.setOffline(true)
  const chooser = page.waitForEvent('filechooser')
  await card(page).getByRole('button', { name: 'Photograph' }).click()
  await (await chooser).setFiles({ name: 'photo.jpg', mimeType: 'image/jpeg', buffer: picture })
  await expect(card(page).getByText('not sent yet')).toBeVisible()
  await context.setOffline(false)
  await expect(card(page).getByText('not sent yet')).toBeHidden()
  const shown = card(page).getByRole('img', { name: 'Print labels and cards, photograph 1' })
  await expect
    .poll(() => shown.evaluate((image: HTMLImageElement) => [image.naturalWidth, image.naturalHeight]))
    .toEqual([1280, 960])
  // It is there without a network, also of a step that was not looked at with one.
  await page.reload()
  await expect(card(page)).toBeVisible()
  const source = (await page.evaluate(
    `caches.open('step-photos').then((kept) => kept.keys()).then((all) => all.map(({ url }) => url))`,
  )) as string[]
  expect(source).toHaveLength(1)
  await context.setOffline(true)
  await page.reload()
  await turnTo(page, /^Print labels/)
  await expect.poll(() => shown.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(1280)
  await context.setOffline(false)
  await accessible(page, 'main')
  await card(page).getByRole('button', { name: 'Remove photograph 1' }).click()
  await expect(shown).toBeHidden()
  const text = page.waitForEvent('filechooser')
  await card(page).getByRole('button', { name: 'Photograph' }).click()
  await (
    await text
  ).setFiles({ name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') })
  await expect(card(page).getByRole('alert')).toContainText('no picture that the browser can read')
})

test('a serial is scanned by the camera; one whose check character is wrong is told', async ({
  planner,
  copy,
  baseURL,
}, testInfo) => {
  for (const [serial, isRight] of [
    ['GH-7A05-K5RZ', true],
    ['GH-7A05-K5RX', false],
  ] as const) {
    // A still picture stands for what the camera sees.
    const file = testInfo.outputPath(`${serial}.mjpeg`)
    writeFileSync(file, await pictureOf(planner, serial))
    expect(readFileSync(file).length).toBeGreaterThan(1000)
    const browser = await chromium.launch({
      executablePath: browserPath(),
      args: [
        ...BROWSER_ARGUMENTS,
        '--use-fake-ui-for-media-stream',
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-video-capture=${file}`,
      ],
    })
    const context = await browser.newContext({ ...(baseURL ? { baseURL } : {}), viewport: PHONE })
    const page = await context.newPage()
    await signIn(page, 'Rigger')
    await page.goto(`/sites/${copy}/field-cards`)
    await turnTo(page, /^Scan and claim Boathouse switch/)
    await card(page).getByRole('textbox').fill('')
    await card(page).getByRole('button', { name: 'Scan the label' }).click()
    const dialog = page.getByRole('dialog', { name: 'Scan the serial' })
    if (isRight) await expect(card(page).getByRole('textbox')).toHaveValue(serial)
    else {
      await expect(dialog.getByRole('listitem')).toContainText(serial)
      await accessible(page)
      await dialog.getByRole('button', { name: 'Cancel' }).click()
      await expect(card(page).getByRole('textbox')).toHaveValue('')
    }
    await browser.close()
  }
})

test('passphrases are taken along, sealed under a PIN, and open without a network', async ({
  planner,
  context,
}) => {
  await planner.goto('/')
  await planner.getByRole('button', { name: 'New site' }).click()
  await planner.getByRole('textbox', { name: 'Site name' }).fill(`Sealed ${Date.now() % 100_000}`)
  await planner.getByRole('textbox', { name: 'Rooms' }).fill('2')
  await planner.getByRole('textbox', { name: 'Access points' }).fill('1')
  await planner.getByRole('button', { name: 'Create site' }).click()
  await expect(planner.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
  const [, slug = ''] = /sites\/([^/]+)/.exec(planner.url()) ?? []
  await planner.goto(`/sites/${slug}/wifi`)
  await planner.getByRole('tab', { name: /^SSIDs/ }).click()
  await planner.getByRole('button', { name: /^Generate a passphrase for .* Guests$/ }).click()
  await expect(planner.getByRole('table', { name: 'Passphrases' })).toContainText('not shown yet')
  await keptCards(planner, slug)
  const panel = (page: Page) => page.getByRole('button', { name: 'Wi-Fi passphrases' })
  await panel(planner).click()
  const pin = planner.getByLabel('PIN')
  await pin.fill('31415')
  await expect(planner.getByRole('button', { name: 'Keep them here' })).toBeDisabled()
  await pin.fill('314159')
  await pin.press('Enter')
  await expect(planner.getByText('1 passphrase sealed on this device until')).toBeVisible()
  await context.setOffline(true)
  const page = await reopened(context, planner, '/field')
  await panel(page).click()
  await expect(page.getByText(/^Sealed here until/)).toBeVisible()
  await page.getByLabel('PIN').fill('000000')
  await page.getByRole('button', { name: 'Open', exact: true }).click()
  await expect(page.getByText('After 4 more tries they are dropped')).toBeVisible()
  await page.getByLabel('PIN').fill('314159')
  await page.getByLabel('PIN').press('Enter')
  const secret = page.getByText(/^\w{4}-\w{4}-\w{4}-\w{4}$/)
  await expect(secret).toBeVisible()
  await accessible(page)
  await page.getByRole('button', { name: 'Drop them from this device' }).click()
  await expect(secret).toBeHidden()
  await expect(page.getByText('Dropped from this device.')).toBeVisible()
})
