import { accessible, cell, expect, saved, test, toNight } from './fixtures'
import type { Page } from '@playwright/test'

const gateway = (page: Page) => cell(page, 'Networks', 'Staff', 4)
async function type(page: Page, text: string): Promise<void> {
  await gateway(page).dblclick()
  await page.getByRole('textbox', { name: 'Gateway' }).fill(text)
  await page.keyboard.press('Enter')
}

test('without the server the work stays, over a reload too, and is sent by itself', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/addresses`)
  await expect(gateway(page)).toBeVisible()
  await page.route('**/api/sites/*/plan', (route) => route.abort())
  await type(page, '10.61.1.2')
  await expect(page.getByRole('alert')).toContainText('Not saved yet: the server does not answer.')
  await accessible(page)
  await toNight(page)
  await accessible(page)
  page.on('dialog', (dialog) => void dialog.accept())
  await page.reload()
  await expect(gateway(page)).toHaveText('10.61.1.2')
  await expect(page.getByText('rev 1, not saved yet')).toBeVisible()
  await page.unroute('**/api/sites/*/plan')
  await saved(page, 2)
  await expect(page.getByRole('alert')).toBeHidden()
})

test('undo and redo outlive a reload', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/addresses`)
  await type(page, '10.61.1.2')
  await saved(page, 2)
  await page.reload()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(gateway(page)).toHaveText('10.61.1.1')
  await saved(page, 3)
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(gateway(page)).toHaveText('10.61.1.2')
  await saved(page, 4)
})

test('ticks and results wait for the server and reach it once', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/brief`)
  await page.getByRole('tab', { name: /Before you unplug/ }).click()
  const items = page.getByRole('checkbox')
  await expect(items.first()).toBeVisible()
  await page.route(/\/(ticks|results)$/, (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  )
  await items.first().check()
  await expect(page.getByText('not sent yet')).toBeVisible()
  await expect(page.getByText('1 record waits for the server')).toBeVisible()
  await page.goto(`/sites/${copy}/prove`)
  await page
    .locator('[data-test^="lease:"]')
    .first()
    .getByRole('button', { name: /^Record / })
    .click()
  const dialog = page.getByRole('dialog', { name: 'Record a result' })
  await dialog.getByLabel('an address was taken').check()
  await dialog.getByLabel('Address taken').fill('10.61.1.44')
  await dialog.getByLabel('Tried from').fill('phone 3')
  await dialog.getByRole('button', { name: 'Record result' }).click()
  await expect(page.getByText('2 records wait for the server')).toBeVisible()
  await accessible(page)
  await expect(page.getByText('recorded, not sent yet')).toBeVisible()
  await page.unroute(/\/(ticks|results)$/)
  await expect(page.getByText('for the server')).toBeHidden()
  await expect(page.getByText('recorded, not sent yet')).toBeHidden()
  const of = async (path: string) => (await page.request.get(`/api/sites/${copy}/${path}`)).json()
  expect(await of('ticks')).toHaveLength(1)
  expect((await of('proof')).results).toHaveLength(1)
})
