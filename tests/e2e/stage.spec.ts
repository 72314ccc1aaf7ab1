import type { Page } from '@playwright/test'
import { accessible, choose, expect, PHONE, row, signIn, test, toNight, turnTo } from './fixtures'

const summary = (page: Page) => page.getByRole('status').filter({ hasText: /^Ends / })
/** Something is laid out, and no better order is sought any more: blocks stay where they are. */
async function settled(page: Page): Promise<void> {
  await expect(page.locator('.block, [role=gridcell]').filter({ visible: true }).first()).toBeVisible()
  await expect(page.getByText('Looking for a better order')).toBeHidden()
}

test.describe('the run sheet', () => {
  test('of an empty site says that there is nothing to do; of a first plan it is laid out by keys alone', async ({
    planner: page,
  }) => {
    const empty = `Nothing ${Date.now() % 100_000}`
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(empty)
    await page.getByRole('radio', { name: 'An empty plan' }).check()
    await page.getByRole('textbox', { name: 'Address block' }).fill('10.77.0.0/20')
    await page.getByRole('button', { name: 'Create site' }).click()
    await expect(page.getByRole('heading', { name: 'Brief', level: 1 })).toBeVisible()
    await page.keyboard.press('g')
    await page.keyboard.press('x')
    await expect(page.getByRole('heading', { name: 'Run sheet', level: 1 })).toBeVisible()
    await expect(page.getByText('Nothing to do yet: the work follows')).toBeVisible()
    await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('nothing to do yet')
    await page.keyboard.press('g')
    await page.keyboard.press('j')
    await expect(page.getByText('No step yet')).toBeVisible()
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(`First ${Date.now() % 100_000}`)
    await page.getByRole('button', { name: 'Create site' }).click()
    await expect(page).toHaveURL(/sites\/first-/)
    await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
    await page.keyboard.press('g')
    await page.keyboard.press('x')
    // What the plan does not say is assumed, and that is told.
    await expect(page.getByText('Nobody is named')).toBeVisible()
    await expect(page.getByText('No first day is agreed')).toBeVisible()
    await expect(summary(page)).toContainText(/Ends day \d/)
    await page.getByRole('tab', { name: 'People and hours' }).focus()
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Add a person' }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('gridcell').and(page.locator(':focus'))).toHaveCount(1)
    await page.keyboard.press('Enter')
    await page.keyboard.type('Fitter')
    await page.keyboard.press('Enter')
    await expect(row(page, 'People', 'Fitter')).toBeVisible()
    await expect(page.getByText('Nobody is named')).toBeHidden()
    await page.getByRole('textbox', { name: 'First day' }).fill('2027-02-01')
    await page.keyboard.press('Enter')
    await expect(page.getByText('No first day is agreed')).toBeHidden()
    await expect(summary(page)).toContainText(/Ends Mon 1 Feb|Ends Tue 2 Feb/)
    await expect(page.getByRole('navigation', { name: 'Stages' })).toContainText('from 2027-02-01')
  })

  test('wishes are kept when it is laid out again, and what cannot be is said', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/run-sheet`)
    await expect(summary(page)).toContainText('Fri 11 Dec')
    await settled(page)
    await accessible(page, 'main')
    await page.getByRole('tab', { name: /^Steps/ }).click()
    const steps = page.getByRole('grid', { name: 'Steps' })
    await expect(steps).toBeVisible()
    await page.getByRole('textbox', { name: 'Filter Steps' }).fill('mount gateway')
    const mount = steps.getByRole('row').filter({ hasText: 'Mount Gateway' })
    await mount.getByRole('gridcell').nth(4).dblclick()
    await page.getByRole('combobox', { name: 'Who', exact: true }).selectOption('Electrician')
    await page.keyboard.press('Enter')
    await expect(mount).toContainText('Electrician')
    await mount.getByRole('gridcell').nth(5).dblclick()
    await page.getByRole('textbox', { name: 'Not before' }).fill('2026-12-09 14:00')
    await page.keyboard.press('Enter')
    await expect(mount).toContainText(/Wed 9 Dec 1[4-7]:/)
    await settled(page)
    await expect(mount).toContainText('Electrician')
    // Without anybody who may bond, that and all that waits for it has no time.
    await page.getByRole('tab', { name: /^People/ }).click()
    await page.getByRole('button', { name: 'Remove Electrician' }).click()
    await expect(page.getByRole('alert').filter({ hasText: 'without a time' })).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('alert').filter({ hasText: 'without a time' })).toBeHidden()
    await page.getByRole('tab', { name: /^Steps/ }).click()
    await page.getByRole('textbox', { name: 'Filter Steps' }).fill('mount gateway')
    await expect(mount).toContainText('Electrician')
  })

  test('a block is dragged later and to another day; what that costs is told before it is let go', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/run-sheet`)
    await settled(page)
    const day = page.getByRole('group', { name: /^Tue 8 Dec/ })
    const block = day.locator('.block:not(.wait)').first()
    await block.scrollIntoViewIfNeeded()
    const box = await block.boundingBox()
    if (!box) throw new Error('no block')
    await page.mouse.move(box.x + 6, box.y + 6)
    await page.mouse.down()
    // To an earlier time it does not go, and that says why.
    await page.mouse.move(box.x - 40, box.y + 6, { steps: 8 })
    await expect(page.getByText(/^It cannot begin sooner: (it waits for|nobody who may)/)).toBeVisible()
    await page.mouse.move(box.x + 200, box.y + 6, { steps: 8 })
    await expect(day.locator('.ghost')).toBeVisible()
    await expect(
      page.getByRole('status').filter({ hasText: /^not before Tue 8 Dec .*(the end stays|later|no time)/ }),
    ).toBeVisible()
    // The strip below is the next day.
    const strip = await day.boundingBox()
    await page.mouse.move(box.x + 200, box.y + 6 + (strip?.height ?? 0), { steps: 8 })
    await expect(page.getByRole('status').filter({ hasText: /^not before Wed 9 Dec/ })).toBeVisible()
    await page.mouse.up()
    await expect(page.locator('.ghost')).toBeHidden()
    await expect(page.getByText('rev 2')).toBeVisible()
    const wishes = async () => {
      const { plan } = await (await page.request.get(`/api/sites/${copy}/plan`)).json()
      return (plan.work.adjustments as { notBeforeMin: number }[]).map(({ notBeforeMin }) => notBeforeMin)
    }
    // Some time of the third day, in steps of five minutes.
    const [time = 0, ...others] = await wishes()
    expect([Math.floor(time / 1440), time % 5, others]).toEqual([2, 0, []])
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByText('rev 3')).toBeVisible()
    expect(await wishes()).toEqual([])
  })

  test('chances are told as numbers, the window can be chosen on a clock, by day and by night', async ({
    planner: page,
    copy,
  }) => {
    await page.goto(`/sites/${copy}/run-sheet`)
    await settled(page)
    await page.getByRole('tab', { name: 'Chances' }).click()
    await expect(page.getByText(/Half of the runs are done by/)).toBeVisible()
    await expect(page.getByText(/Within the window of the cut-over: \d+ %/)).toBeVisible()
    await expect(page.getByText('1 person: ', { exact: false })).toBeVisible()
    await accessible(page, 'main')
    await page.getByRole('tab', { name: /^People/ }).click()
    await page.getByRole('button', { name: 'Over by: choose on a clock' }).click()
    await expect(page.locator('.v-time-picker')).toBeVisible()
    await page.keyboard.press('Escape')
    await page.getByRole('textbox', { name: 'Over by' }).fill('25:00')
    await expect(page.getByText('25:00 is not a time such as 08:00')).toBeVisible()
    await page.getByRole('textbox', { name: 'Over by' }).fill('13:01')
    await expect(page.getByRole('alert').filter({ hasText: 'without a time' })).toBeVisible()
    await toNight(page)
    await accessible(page, 'main')
  })
})

/** What was told of leads on to the next card. */
const turned = (page: Page, title: RegExp) =>
  expect(page.getByRole('article').getByRole('heading')).not.toHaveText(title)

test.describe('field cards', () => {
  const cards = async (page: Page, copy: string) => {
    await page.context().clearCookies()
    await signIn(page, 'Rigger')
    await page.setViewportSize(PHONE)
    await page.goto(`/sites/${copy}/field-cards`)
    await expect(page.getByRole('article')).toBeVisible()
    await choose(page, 'Cards of', 'Rigger')
    await accessible(page, 'main')
    return page.getByRole('article')
  }

  test('a rigger starts, reads and skips', async ({ planner: page, copy }) => {
    const card = await cards(page, copy)
    // A wait that runs counts down.
    await turnTo(page, /^Controller starts/)
    await card.getByRole('button', { name: 'Start', exact: true }).click()
    await expect(card.getByRole('timer')).toContainText(/[012]:[0-5]\d/)
    // A reading that is none is not taken; one that differs is kept, with what differs.
    await turnTo(page, /^Controller takes its firmware/)
    await expect(card.getByRole('button', { name: 'Done' })).toBeDisabled()
    await card.getByRole('textbox').fill('newest')
    await expect(card.getByText('newest is no version')).toBeVisible()
    await expect(card.getByRole('button', { name: 'Done' })).toBeDisabled()
    await card.getByRole('textbox').fill('0.1')
    await card.getByRole('button', { name: 'Done' }).click()
    await turned(page, /^Controller takes its firmware/)
    await turnTo(page, /^Controller takes its firmware/)
    await expect(card.getByRole('status').filter({ hasText: 'done by Rigger' })).toContainText(
      '0.1 is not the planned',
    )
    await accessible(page, 'main')
    // Skipping asks for the reason.
    await turnTo(page, /^Print labels/)
    await card.getByRole('button', { name: 'Skip' }).click()
    await expect(card.getByRole('button', { name: 'Skip it' })).toBeDisabled()
    await card.getByRole('textbox').fill('printed last week')
    await card.getByRole('button', { name: 'Skip it' }).click()
    await turned(page, /^Print labels/)
    await turnTo(page, /^Print labels/)
    await expect(card.getByRole('status').filter({ hasText: 'skipped by Rigger' })).not.toContainText(
      'not sent',
    )
  })

  test('what is told without a network is kept, over a reload too, and sent once', async ({
    planner: page,
    copy,
  }) => {
    const card = await cards(page, copy)
    await page
      .context()
      .route(/\/steps$/, (route) => (route.request().method() === 'POST' ? route.abort() : route.continue()))
    await turnTo(page, /^Download/)
    await card.getByRole('button', { name: 'Done' }).click()
    await expect(page.getByText('1 record waits for the server')).toBeVisible()
    await turned(page, /^Download/)
    await turnTo(page, /^Download/)
    await expect(card.getByText('not sent yet')).toBeVisible()
    await page.reload()
    await expect(page.getByText('1 record waits for the server')).toBeVisible()
    await page.context().unroute(/\/steps$/)
    await expect(page.getByText('waits for the server')).toBeHidden()
    await turnTo(page, /^Download/)
    await expect(card.getByRole('status').filter({ hasText: 'done by Rigger' })).not.toContainText(
      'not sent yet',
    )
    await card.getByRole('button', { name: 'Take back' }).click()
    await expect(card.getByRole('button', { name: 'Start', exact: true })).toBeVisible()
  })
})

test('a serial that another site has claimed is refused, and the step stays as it is', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/field-cards`)
  const card = page.getByRole('article')
  await expect(card).toBeVisible()
  await turnTo(page, /^Scan and claim Boathouse switch/)
  await expect(card.getByRole('textbox')).toHaveValue(/^GH-/)
  await card.getByRole('button', { name: 'Done' }).click()
  await expect(card.getByRole('alert')).toContainText('GH-')
  await expect(card.getByRole('button', { name: 'Start', exact: true })).toBeVisible()
})

test('a step that failed holds up what waits for it, and the rest goes on', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/field-cards`)
  const card = page.getByRole('article')
  await expect(card).toBeVisible()
  await turnTo(page, /^Unbox Visitor AP/)
  await card.getByRole('button', { name: 'Not as it should be' }).click()
  await card.getByRole('textbox', { name: 'What is not as it should be' }).fill('dead on arrival')
  await card.getByRole('button', { name: 'Record it' }).click()
  await page.goto(`/sites/${copy}/run-sheet`)
  await expect(page.getByRole('alert').filter({ hasText: 'without a time' })).toBeVisible()
  await page.getByRole('tab', { name: /^Steps/ }).click()
  await page.getByRole('textbox', { name: 'Filter Steps' }).fill('mount visitor ap')
  await expect(page.getByRole('grid', { name: 'Steps' })).toContainText(
    'Waits for something that has no time',
  )
  await page.getByRole('textbox', { name: 'Filter Steps' }).fill('mount boathouse ap')
  await expect(page.getByRole('grid', { name: 'Steps' })).not.toContainText('Waits for something')
})

test('cards show at once what was laid out last, before it is laid out anew', async ({ copy, browser }) => {
  // Nothing stands between the page and the network, so that the worker can be kept away.
  const context = await browser.newContext({ serviceWorkers: 'block' })
  const page = await context.newPage()
  await signIn(page, 'Planner')
  await page.goto(`/sites/${copy}/field-cards`)
  await expect(page.getByRole('article')).toBeVisible()
  const isKept = (slug: string) =>
    page.evaluate(
      (wanted) =>
        new Promise<boolean>((resolve) => {
          const opening = indexedDB.open('kept-answers')
          opening.onsuccess = () => {
            const keys = opening.result.transaction('answers').objectStore('answers').getAllKeys()
            keys.onsuccess = () => resolve(keys.result.some((key) => String(key).endsWith(wanted)))
          }
        }),
      `sites/${slug}/timetable`,
    )
  await expect.poll(() => isKept(copy)).toBe(true)
  const first = await page.getByRole('article').getByRole('heading').first().textContent()
  await page.route('**/schedule.worker*', (route) => route.abort())
  await page.reload()
  await expect(page.getByRole('article').getByRole('heading').first()).toHaveText(first ?? '')
  await context.close()
})
