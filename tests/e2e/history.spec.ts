import { readFileSync, writeFileSync } from 'node:fs'
import { another, accessible, cell, expect, lookout, saved, test, toNight } from './fixtures'
import { PLAN_VERSION } from '../../core/format/version'

const gateway = (page: import('@playwright/test').Page, name = 'Staff') => cell(page, 'Networks', name, 4)
async function type(page: import('@playwright/test').Page, text: string, name = 'Staff'): Promise<void> {
  await gateway(page, name).dblclick()
  await page.getByRole('textbox', { name: 'Gateway' }).fill(text)
  await page.keyboard.press('Enter')
}

test('every change is a revision that can be looked at and restored', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/addresses`)
  await type(page, '10.61.1.2')
  await saved(page, 2)
  await type(page, '10.61.1.3')
  await saved(page, 3)
  await page.getByRole('link', { name: 'rev 3, saved' }).click()
  await expect(page.getByRole('heading', { name: 'Revisions' })).toBeVisible()
  await page.getByRole('button', { name: 'Staff: gateway 10.61.1.2' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: '→' })).toHaveText([
    'Staff · gateway: 10.61.1.1 → 10.61.1.2',
  ])
  await accessible(page)
  await page.getByRole('button', { name: 'Restore revision 2' }).click()
  await saved(page, 4)
  await expect(page.getByRole('button', { name: 'restored revision 2' })).toBeVisible()
  await page.goto(`/sites/${copy}/addresses`)
  await expect(gateway(page)).toHaveText('10.61.1.2')
})

test('of two people the later is refused with both versions shown; what does not meet is laid together', async ({
  planner: page,
  copy,
  browser,
}) => {
  const other = await another(browser, 'Planner')
  await Promise.all([page, other].map((p) => p.goto(`/sites/${copy}/addresses`)))
  await expect(gateway(other)).toBeVisible()
  await toNight(other)
  // The other one stops hearing news, so that both go on from the same revision.
  await other.route('**/api/sites/*/plan', async (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  )
  await type(page, '10.61.1.2')
  await saved(page, 2)
  await type(other, '10.61.4.9', 'Voice')
  await expect(other.getByRole('heading', { name: 'Two versions of this plan' })).toBeVisible()
  await expect(other.getByText('Voice · gateway: 10.61.4.1 → 10.61.4.9')).toBeVisible()
  await expect(other.getByText('Staff · gateway: 10.61.1.1 → 10.61.1.2')).toBeVisible()
  await accessible(other)
  await other.getByRole('button', { name: 'Apply my changes to theirs' }).click()
  await saved(other, 3)
  await expect(gateway(other)).toHaveText('10.61.1.2')
  // The first one hears of it without reloading.
  await expect(gateway(page, 'Voice')).toHaveText('10.61.4.9')
  await other.context().close()
})

test('where both changed the same field nothing is merged: one decides, and can keep a file', async ({
  planner: page,
  copy,
  browser,
}) => {
  const other = await another(browser, 'Planner')
  await Promise.all([page, other].map((p) => p.goto(`/sites/${copy}/addresses`)))
  await expect(gateway(other)).toBeVisible()
  await other.route('**/api/sites/*/plan', async (route) =>
    route.request().method() === 'GET' ? route.abort() : route.continue(),
  )
  await type(page, '10.61.1.2')
  await saved(page, 2)
  await type(other, '10.61.1.9')
  await expect(other.getByText('changed by both').first()).toBeVisible()
  await accessible(other)
  await expect(other.getByRole('button', { name: 'Apply my changes to theirs' })).toBeDisabled()
  const [file] = await Promise.all([
    other.waitForEvent('download'),
    other.getByRole('button', { name: 'Export mine' }).click(),
  ])
  expect(readFileSync(await file.path(), 'utf8')).toContain('"gateway": "10.61.1.9"')
  await other.getByRole('button', { name: 'Discard mine' }).click()
  await expect(gateway(other)).toHaveText('10.61.1.2')
  await saved(other, 2)
  await other.context().close()
})

test('a site file is read back as an identical plan; a bad, a newer and a huge one are refused', async ({
  planner: page,
  copy,
}, info) => {
  const file = await (await page.request.get(`/api/sites/${copy}/export/site.json`)).text()
  const read = async (name: string, text: string) => {
    writeFileSync(info.outputPath(name), text)
    await page.goto('/')
    const asked = page.waitForEvent('filechooser')
    await page.getByRole('button', { name: 'Import a site file' }).click()
    await (await asked).setFiles(info.outputPath(name))
  }
  await page.goto('/')
  await accessible(page)
  await read('bad.json', file.replace('"gateway": "10.61.1.1"', '"gateway": "10.61.1.300"'))
  await expect(page.getByRole('alert')).toContainText(
    'networks[1].gateway: 10.61.1.300 is not an IPv4 address',
  )
  await accessible(page)
  await read('newer.json', file.replace(`"version": ${PLAN_VERSION}`, `"version": ${PLAN_VERSION + 1}`))
  await expect(page.getByRole('alert')).toContainText(
    `the file is of version ${PLAN_VERSION + 1}; this Able Mast knows versions up to ${PLAN_VERSION}`,
  )
  await read('huge.json', 'x'.repeat(5_000_000))
  await expect(page.getByRole('alert')).toContainText('this is not JSON')
  await read('good.json', file)
  await expect(page).toHaveURL(/\/sites\/.+\/addresses/)
  const slug = new URL(page.url()).pathname.split('/')[2]
  expect(await (await page.request.get(`/api/sites/${slug}/export/site.json`)).text()).toBe(file)
})

test('the clean copy is quiet', async ({ planner: page }) => {
  await page.goto('/sites/gullhaven-clean/reach')
  await expect(lookout(page).getByText('6 notes')).toBeVisible()
  await expect(
    page.getByRole('navigation', { name: 'Stages' }).getByText('144 of 144 as intended'),
  ).toBeVisible()
})
