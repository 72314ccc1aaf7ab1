import { accessible, choose, test, expect } from './fixtures'

test('a failing proof is explained, with the next best test, and what the plan itself foresees', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/diagnose`)
  await page.getByLabel('only what failed').uncheck()
  const seen = (name: RegExp, what: string) => choose(page, name, what)
  await seen(/^Seen: Instruments to Servers$/, 'failed')
  await seen(/^Seen: Staff to Servers$/, 'passed')
  await seen(/^Seen: Instruments: a client takes a lease$/, 'passed')
  await accessible(page)
  await page.getByRole('button', { name: 'Find explanations' }).click()
  const found = page.getByRole('region', { name: 'Explanations' })
  await expect(found).toContainText('Rule 2 (Instruments deliver to the tide-data server) is missing')
  await expect(found).toContainText('explains all 3')
  await expect(found).toContainText(/Try next: |Look next: /)
})

test('facts tell apart what fails alike: a stranger’s address, a MAC address on another port', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/diagnose`)
  const add = async (kind: string, thing: string, got: string) => {
    await choose(page, 'Seen', kind)
    await choose(page, 'Of', thing)
    await choose(page, 'Was', got)
    await page.getByRole('button', { name: 'Add', exact: true }).click()
  }
  await add('the address that a host has', 'Staff desks', 'of no network here')
  await expect(page.getByRole('list', { name: 'Facts' })).toContainText(
    'The address of Staff desks: of no network here',
  )
  await accessible(page)
  const find = page.getByRole('button', { name: 'Find explanations' })
  await find.click()
  const found = page.getByRole('region', { name: 'Explanations' })
  await expect(found).toContainText('Another DHCP server answers in Staff')
  await page.getByRole('button', { name: /^Remove: The address of Staff desks/ }).click()
  await expect(found).toBeHidden()
  await expect(find).toBeDisabled()
  // What was said stays while another sheet is looked at.
  await add('the gateway’s address on an uplink', '5G', 'one of our own networks’')
  await page.getByRole('link', { name: 'Rehearse', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Reach grid' })).toBeVisible()
  await page.getByRole('link', { name: 'Prove', exact: true }).click()
  await page.getByRole('link', { name: 'Diagnose', exact: true }).click()
  await find.click()
  await expect(found).toContainText('the modem gives the gateway an address of one of the site’s networks')
})
