import type { Page } from '@playwright/test'
import { accessible, cell, expect, lookout, row, saved, test } from './fixtures'

test.beforeEach(async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/addresses`)
  await expect(row(page, 'Networks', 'Guests')).toBeVisible()
})

test(
  'a gateway typed into the wrong subnet is found while one types, pointed out on the ' +
    'ruler, mended, undone and done again',
  async ({ planner: page }) => {
    await accessible(page)
    await cell(page, 'Networks', 'Guests', 4).dblclick()
    const field = page.getByRole('textbox', { name: 'Gateway' })
    await field.fill('10.61.4.1')
    // Still typing: the field is open and nothing was confirmed.
    await expect(lookout(page).getByText('Guests: gateway outside its subnet')).toBeVisible()
    await expect(
      page
        .getByRole('group', { name: 'Address ruler' })
        .getByText("Guests' gateway was typed here, in Voice"),
    ).toBeVisible()
    await expect(field).toBeFocused()
    await page.keyboard.press('Enter')
    await saved(page, 2)
    await lookout(page).getByRole('button', { name: 'Use 10.61.6.1' }).click()
    await expect(cell(page, 'Networks', 'Guests', 4)).toHaveText('10.61.6.1')
    await expect(lookout(page).getByText('Guests: gateway outside its subnet')).toHaveCount(0)
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(cell(page, 'Networks', 'Guests', 4)).toHaveText('10.61.4.1')
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(cell(page, 'Networks', 'Guests', 4)).toHaveText('10.61.6.1')
    await page.getByRole('button', { name: 'Redo' }).click()
    await expect(cell(page, 'Networks', 'Guests', 4)).toHaveText('10.61.4.1')
  },
)

test('each keystroke is checked, and what is wrong is told with place and reason and changes nothing', async ({
  planner: page,
}) => {
  await cell(page, 'Networks', 'Staff', 3).dblclick()
  const field = page.getByRole('textbox', { name: 'Subnet' })
  await field.fill('10.61.1.0/2')
  await expect(page.getByRole('alert')).toHaveText('10.61.1.0/2 has host bits; 0.0.0.0/2 was probably meant')
  await field.fill('10.61.1.300/24')
  await expect(page.getByRole('alert')).toHaveText('10.61.1.300 is not an IPv4 address')
  await expect(field).toHaveAttribute('aria-invalid', 'true')
  await page.keyboard.press('Enter')
  await expect(field).toBeFocused()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('alert')).toHaveText(
    'Staff, Subnet: 10.61.1.300 is not an IPv4 address. Left as it was.',
  )
  await expect(cell(page, 'Networks', 'Staff', 3)).toHaveText('10.61.1.0/24')
})

test('by keys alone: move, edit, leave, keep', async ({ planner: page }) => {
  await cell(page, 'Networks', 'Management', 2).click()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('e')
  await page.keyboard.type('Crew')
  await page.keyboard.press('Escape')
  await expect(row(page, 'Networks', 'Staff')).toBeVisible()
  await page.keyboard.press('Enter')
  await page.keyboard.type('Crew')
  await page.keyboard.press('Tab')
  await expect(row(page, 'Networks', 'Crew')).toBeVisible()
  await expect(cell(page, 'Networks', 'Crew', 3)).toBeFocused()
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Networks', 'Staff')).toBeVisible()
})

test('the ruler follows the table: lengths, gaps and the fine ruler of the chosen network', async ({
  planner: page,
}) => {
  const ruler = page.getByRole('group', { name: 'Address ruler' })
  await expect(ruler.locator('text', { hasText: 'free: one /21 (2,048 addresses), aligned' })).toBeVisible()
  await ruler.getByRole('button', { name: 'Guests, VLAN 60, 10.61.6.0/23' }).click()
  await expect(
    page.getByRole('img', { name: /Guests 10\.61\.6\.0\/23: 0 static, 0 reserved, 501 pool/ }),
  ).toBeVisible()
  await cell(page, 'Networks', 'Guests', 3).dblclick()
  await page.getByRole('textbox', { name: 'Subnet' }).fill('10.61.8.0/21')
  await expect(ruler.getByRole('button', { name: 'Guests, VLAN 60, 10.61.8.0/21' })).toBeVisible()
  await expect(ruler.getByText('free: one /21', { exact: false })).toHaveCount(0)
})

test('a VLAN number takes its ports with it; numbers in use are refused', async ({ planner: page, copy }) => {
  await cell(page, 'Networks', 'Voice', 1).dblclick()
  const field = page.getByRole('textbox', { name: 'VLAN' })
  await field.fill('40')
  await expect(page.getByRole('alert')).toHaveText('VLAN 40 belongs to Cameras')
  await field.fill('55')
  await page.keyboard.press('Enter')
  await saved(page, 2)
  await page.goto(`/sites/${copy}/loom`)
  await expect(cell(page, 'Ports', 'Desk telephones 1', 3)).toHaveText('55')
  await expect(lookout(page).getByText('1 blocker, 9 warnings')).toBeVisible()
})

test('static addresses are added, typed and freed', async ({ planner: page }) => {
  await cell(page, 'Networks', 'Staff', 2).click()
  await page.getByRole('button', { name: 'Add an address' }).click()
  await cell(page, 'Fixed addresses', 'New address', 0).dblclick()
  await page.getByRole('textbox', { name: 'Address' }).fill('10.61.9.9')
  await expect(page.getByRole('alert')).toHaveText('10.61.9.9 is not in 10.61.1.0/24')
  await page.getByRole('textbox', { name: 'Address' }).fill('10.61.1.20')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'Networks', 'Staff', 8)).toHaveText('2')
  await page.getByRole('button', { name: 'Remove 10.61.1.20' }).click()
  await expect(cell(page, 'Networks', 'Staff', 8)).toHaveText('1')
})

test('cells from a spreadsheet are pasted all or not at all', async ({ planner: page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  const paste = async (text: string) => {
    await page.evaluate((t) => navigator.clipboard.writeText(t), text)
    await page.keyboard.press('Control+v')
  }
  await cell(page, 'Networks', 'Staff', 3).click()
  await paste('10.61.11.0/24\t10.61.11.1\n10.61.12.0/26\t10.61.12.999')
  await expect(page.getByRole('alert')).toHaveText(
    'Nothing was pasted. Servers, Gateway: 10.61.12.999 is not an IPv4 address.',
  )
  await expect(cell(page, 'Networks', 'Staff', 3)).toHaveText('10.61.1.0/24')
  await paste('10.61.11.0/24\t10.61.11.1\n10.61.12.0/26\t10.61.12.1')
  await expect(cell(page, 'Networks', 'Servers', 4)).toHaveText('10.61.12.1')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(cell(page, 'Networks', 'Staff', 3)).toHaveText('10.61.1.0/24')
  await expect(cell(page, 'Networks', 'Servers', 4)).toHaveText('10.61.2.1')
})

/** Drops a list on the field for files. */
async function drop(page: Page, list: string): Promise<void> {
  const dataTransfer = await page.evaluateHandle((text) => {
    const dropped = new DataTransfer()
    dropped.items.add(new File([text], 'networks.csv', { type: 'text/csv' }))
    return dropped
  }, list)
  await page.getByLabel('Choose a file').first().dispatchEvent('drop', { dataTransfer })
}

test('a network list is previewed, its errors told by row and column, and laid on the plan as one step', async ({
  planner: page,
}) => {
  await page.getByRole('button', { name: 'Import CSV' }).click()
  const text = page.getByRole('textbox', { name: 'or paste it' })
  await text.fill(
    'vlan,name,subnet,gateway,pool\n10,Staff,10.61.1.0/24,10.61.2.300,\n70,Yard,10.61.7.0/33,10.61.7.1,',
  )
  await expect(page.getByRole('alert')).toContainText(
    'row 2, column "gateway": 10.61.2.300 is not an IPv4 address',
  )
  await expect(page.getByRole('alert')).toContainText(
    'row 3, column "subnet": 10.61.7.0/33: a prefix length is 0 to 32',
  )
  await expect(page.getByRole('button', { name: 'Nothing to apply' })).toBeDisabled()
  await accessible(page)
  // The same put right, as a file that is dropped on the field.
  await drop(
    page,
    'vlan,name,subnet,gateway,pool\n10,Staff,10.61.1.0/24,10.61.1.254,10.61.1.100-10.61.1.219\n' +
      '20,Servers,10.61.2.0/26,10.61.2.1,\n70,Yard,10.61.5.0/24,10.61.5.1,10.61.5.10-10.61.5.99',
  )
  await expect(page.getByRole('row', { name: /changed .*gateway was 10\.61\.1\.1.* 10 Staff/ })).toBeVisible()
  await expect(page.getByRole('row', { name: /same 20 Servers/ })).toBeVisible()
  await expect(page.getByRole('row', { name: /new 70 Yard/ })).toBeVisible()
  await page.getByRole('button', { name: 'Import 2 networks' }).click()
  await expect(cell(page, 'Networks', 'Yard', 6)).toHaveText('.10–.99')
  await saved(page, 2)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, 'Networks', 'Yard')).toHaveCount(0)
  await expect(cell(page, 'Networks', 'Staff', 4)).toHaveText('10.61.1.1')
})

test('networks are added into a free place and removed', async ({ planner: page }) => {
  await page.getByRole('button', { name: 'Add a network', exact: true }).click()
  await expect(cell(page, 'Networks', 'Network 5', 3)).toHaveText('10.61.5.0/24')
  await page.getByRole('button', { name: 'Remove Network 5' }).click()
  await expect(row(page, 'Networks', 'Network 5')).toHaveCount(0)
})

test('an IPv6 address is typed into a device; one of another prefix moves into its own', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/addresses`)
  await page.getByRole('grid', { name: 'Networks' }).getByRole('gridcell', { name: 'Servers' }).click()
  await expect(cell(page, 'Fixed addresses', 'File server', 3)).toHaveText('fd61:6a11:c0de:20::10')
  await cell(page, 'Fixed addresses', 'Recorder', 3).dblclick()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('fd61:6a11:c0de:30::12')
  await page.keyboard.press('Enter')
  await expect(
    lookout(page).getByRole('button', { name: 'Recorder: IPv6 address outside Servers' }),
  ).toBeVisible()
  await lookout(page).getByRole('button', { name: 'Use fd61:6a11:c0de:20::12' }).click()
  await expect(
    lookout(page).getByRole('button', { name: 'Recorder: IPv6 address outside Servers' }),
  ).toHaveCount(0)
  await expect(cell(page, 'Fixed addresses', 'Recorder', 3)).toHaveText('fd61:6a11:c0de:20::12')
})

test('a table sorts by its heads, a removal is taken back where it is told, and an address is a host’s', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/addresses`)
  const grid = page.getByRole('grid', { name: 'Networks' })
  const names = () => grid.getByRole('row').locator('[role=gridcell]:nth-child(3)').allInnerTexts()
  await expect(grid.getByRole('row').nth(1)).toBeVisible()
  const planned = await names()
  const head = grid.getByRole('columnheader', { name: 'Network' })
  await head.click()
  await expect(head).toHaveAttribute('aria-sort', 'ascending')
  await expect.poll(names).toEqual(planned.toSorted((one, other) => one.localeCompare(other, 'en')))
  await cell(page, 'Networks', 'Staff', 2).click()
  await page.keyboard.press('s')
  await expect(head).toHaveAttribute('aria-sort', 'descending')
  await page.keyboard.press('s')
  await expect.poll(names).toEqual(planned)
  // Who an address is for is chosen among the hosts of its network that have none.
  await page.getByRole('button', { name: 'Add an address' }).click()
  await page.getByRole('button', { name: 'Close this notice' }).click()
  const fixed = page.getByRole('grid', { name: 'Fixed addresses' })
  await cell(page, 'Fixed addresses', 'New address', 1).dblclick()
  await page.getByRole('option', { name: 'Ticket terminal' }).click()
  await page.keyboard.press('Enter')
  await expect(fixed).toContainText('Ticket terminal')
  await fixed
    .getByRole('row', { name: /Ticket terminal/ })
    .getByRole('button', { name: /^Remove/ })
    .click()
  await expect(fixed).not.toContainText('Ticket terminal')
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect(fixed).toContainText('Ticket terminal')
})
