import type { Page } from '@playwright/test'
import { accessible, choose, expect, lookout, row, test } from './fixtures'

/** Each value by keys alone, then on to the next cell. */
async function type(page: Page, table: string, name: string, from: number, texts: readonly string[]) {
  for (const [i, text] of texts.entries()) {
    await row(page, table, name)
      .getByRole('gridcell')
      .nth(from + i)
      .focus()
    await page.keyboard.press('Enter')
    await page.keyboard.press('Control+a')
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
  }
}

/** A whole survey from a spreadsheet takes the place of what was there; one out of order is refused by its row. */
async function importSurvey(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Import a survey' }).click()
  const survey = page.getByRole('dialog', { name: 'Import a survey' })
  const pasted = survey.getByRole('textbox', { name: 'or paste it' })
  await pasted.fill('distance,ground,obstacle\n900,0,0\n400,0,0')
  await expect(survey.getByRole('alert')).toContainText('row 3: 400 m does not come after 900 m')
  await expect(survey.getByRole('button', { name: 'Nothing to apply' })).toBeDisabled()
  await pasted.fill('distance,ground,obstacle\n400,0,0\n900,0,0\n2000,1,0')
  await accessible(page)
  await survey.getByRole('button', { name: 'Import 3 points' }).click()
  await expect(row(page, 'Surveyed between the ends', '2000')).toContainText('%')
  await page.keyboard.press('Control+z')
}

/** The link is aimed by keys alone; where the ends stand is not known yet, and no compass says so. */
async function aim(page: Page): Promise<void> {
  await page.keyboard.press('g')
  await page.keyboard.press('y')
  await expect(page.getByRole('heading', { name: 'Aiming', level: 1 })).toBeVisible()
  await expect(page.getByText('no reading yet')).toBeVisible()
  const reading = page.getByRole('textbox', { name: 'Reading' })
  for (let i = 0; i < 60 && !(await reading.evaluate((field) => field === document.activeElement)); i++)
    await page.keyboard.press('Tab')
  await page.keyboard.type('-61')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('img', { name: /^−61 dBm, 1 dB to go; highest −61 dBm/ })).toBeVisible()
  await accessible(page)
}

/** What it carries is told while its radios are; more that is needed, and too low a reading, are found. */
async function rate(page: Page): Promise<void> {
  const grid = page.getByRole('grid', { name: 'What it carries' })
  // As the radios are shipped.
  await expect(grid).toContainText(/about \d+ Mb\/s/)
  for (const [spoken, words] of [
    ['—', 'not computed, not said: 802.11'],
    ['ac', /about \d+ Mb\/s/],
  ] as const) {
    await grid.getByRole('gridcell').first().dblclick()
    await page.getByRole('combobox', { name: '802.11' }).selectOption(spoken)
    await page.keyboard.press('Enter')
    await expect(grid).toContainText(words)
  }
  for (const [i, text] of ['2', '3000', '500'].entries()) {
    await grid
      .getByRole('gridcell')
      .nth(1 + i)
      .focus()
    await page.keyboard.press('Enter')
    await page.keyboard.press('Control+a')
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
  }
  await expect(grid).toContainText(/about \d+ Mb\/s/)
  await expect(lookout(page)).toContainText('carries less than is needed')
  await lookout(page).getByRole('button', { name: 'Set the range to 3,400 m' }).click()
  await expect(lookout(page)).not.toContainText('range set too short')
  await type(page, 'Set up and aimed', 'South dish', 3, ['-75'])
  await expect(lookout(page)).toContainText('South dish reads too little')
}

/** A height in feet, and a mask where the gateway belongs, are told; typed right they are not. */
async function mistyped(page: Page): Promise<void> {
  await type(page, 'Ends of the link', 'North dish', 1, ['-3'])
  await type(page, 'Surveyed between the ends', '1700', 0, ['0'])
  await expect(lookout(page)).toContainText('At −3 m it is 3 m under the ground there.')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await type(page, 'Addresses as set', 'South dish', 1, ['10.0.0.2', '10.0.0.1', '255.255.255.0'])
  await expect(lookout(page)).toContainText('The mask field says 10.0.0.1, the gateway field 255.255.255.0')
  await type(page, 'Addresses as set', 'South dish', 2, ['255.255.255.0', '10.0.0.1'])
  await expect(lookout(page)).not.toContainText('one stands where another belongs')
}

test('a radio link is begun from nothing: joined, said, surveyed, and judged', async ({ planner: page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New site' }).click()
  await page.getByRole('textbox', { name: 'Site name' }).fill(`Two shores ${Date.now() % 100_000}`)
  await page.getByRole('button', { name: 'Create site' }).click()
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
  await page.keyboard.press('g')
  await page.keyboard.press('i')
  await expect(page.getByText('No radio link yet.')).toBeVisible()
  await page.getByRole('link', { name: 'add them on the Loom' }).click()
  for (const name of ['North dish', 'South dish']) {
    await page.getByRole('button', { name: 'Add a device' }).click()
    const dialog = page.getByRole('dialog', { name: 'Add a device' })
    await dialog.getByRole('textbox', { name: 'Name' }).fill(name)
    await choose(page, 'Kind', 'wireless bridge')
    await choose(page, 'Model', /^B5, /)
    await dialog.getByRole('button', { name: 'Add device' }).click()
    await expect(dialog).toHaveCount(0)
  }
  await page.keyboard.press('g')
  await page.keyboard.press('i')
  await choose(page, 'Radio', 'North dish')
  await choose(page, 'Far radio', 'South dish')
  await page.getByRole('button', { name: 'Join by radio' }).click()
  await expect(
    page.getByText('Not computed yet. Still to be said: the distance, the frequency'),
  ).toBeVisible()
  await accessible(page)

  await type(page, 'Radio links', 'North dish', 1, ['3400', '5600'])
  await row(page, 'Radio links', 'North dish').getByRole('gridcell').nth(3).dblclick()
  await page.getByRole('combobox', { name: 'Width, MHz' }).selectOption('40')
  await page.keyboard.press('Enter')
  await type(page, 'Radio links', 'North dish', 5, ['zone F'])
  await expect(row(page, 'Radio links', 'North dish').getByRole('gridcell').nth(5)).toHaveText('28')
  await type(page, 'Ends of the link', 'North dish', 1, ['14', '13', '23', '0.5'])
  await type(page, 'Ends of the link', 'South dish', 1, ['9', '13', '23', '0.5'])
  await expect(page.getByText('Not judged: nothing is surveyed between the ends.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a point' }).click()
  const points = 'Surveyed between the ends'
  await type(page, points, '1700', 2, ['9'])
  await expect(page.getByText(/First Fresnel zone: .*60 % is wanted/)).toBeVisible()
  await type(page, points, '1700', 2, ['2'])
  await expect(
    page.getByText(/First Fresnel zone: \d+ % free at 1,700 m, with the least refraction/),
  ).toBeVisible()
  await expect(page.getByRole('img', { name: /^Path from North dish to South dish, 3.4 km/ })).toBeVisible()
  await importSurvey(page)
  await expect(row(page, points, '1700')).toBeVisible()
  await mistyped(page)
  // The balance by hand: 13 - 0.5 + 23 - 118.04 - 0.02 of oxygen + 23 - 0.5, all of the zone that matters free.
  await expect(page.getByRole('table', { name: 'From North dish to South dish' })).toContainText('−60.1')
  await rate(page)
  await accessible(page)
  await aim(page)
})

test('buildings come from a map, and go to one', async ({ planner: page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New site' }).click()
  await page.getByRole('textbox', { name: 'Site name' }).fill(`Mapped ${Date.now() % 100_000}`)
  await page.getByRole('textbox', { name: 'Rooms' }).fill('1')
  await page.getByRole('button', { name: 'Create site' }).click()
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
  const [, slug = ''] = /sites\/([^/]+)/.exec(page.url()) ?? []
  await page.goto(`/sites/${slug}/brief`)
  await page.getByRole('tab', { name: 'Site and places' }).click()
  await expect(page.getByRole('button', { name: 'Export a map' })).toBeDisabled()
  await page.getByRole('button', { name: 'Import a map' }).click()
  const [half, whole] = [
    '{ "type": "Feature", "geometry": ',
    '{ "type": "Point", "coordinates": [-2.5, 57.25] }',
  ]
  const field = page.getByRole('textbox', { name: 'or paste it' })
  await field.fill(half)
  await expect(page.getByText('it breaks off at line 1')).toBeVisible()
  await field.fill(`${half}${whole}, "properties": { "name": "Ice house" } }`)
  await expect(page.getByText('0 buildings of the plan, 1 new.')).toBeVisible()
  await page.getByRole('button', { name: 'Import 1 place' }).click()
  await expect(page.getByRole('dialog')).toBeHidden()
  await expect(page.getByRole('grid', { name: 'Buildings', exact: true })).toContainText('57.25, −2.5')
  const saving = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Export a map' }).click()
  const file = await (await saving).createReadStream()
  const written = JSON.parse((await file.toArray()).join('')) as {
    features: { properties: { name: string } }[]
  }
  expect(written.features.map(({ properties }) => properties.name)).toEqual(['Ice house'])
})

test('the ground on the way is read from an elevation tile, and what is none is refused', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/bridges`)
  await page.getByRole('button', { name: 'Import a survey' }).click()
  const survey = page.getByRole('dialog', { name: 'Import a survey' })
  const tiles = survey.locator('input[type=file]').first()
  const octets = Buffer.alloc(1201 * 1201 * 2)
  const file = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer })
  await tiles.setInputFiles([file('N56W021.hgt', octets.subarray(2))])
  await expect(survey.getByText('N56W021.hgt is no elevation tile')).toBeVisible()
  await tiles.setInputFiles([file('N55W021.hgt', octets)])
  await expect(survey.getByText('no tile has a height there').first()).toBeVisible()
  // 7 m everywhere: the most significant octet first.
  for (let i = 1; i < octets.length; i += 2) octets[i] = 7
  await tiles.setInputFiles([file('N56W021.hgt', octets)])
  // 3,400 m in steps of 30 m.
  await survey.getByRole('button', { name: 'Import 114 points' }).click()
  await expect(page.getByRole('grid', { name: 'Surveyed between the ends' })).toContainText('3400')
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('grid', { name: 'Surveyed between the ends' })).toContainText('2350')
})

test('wind, survey and what an end was found to be set to are judged', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/bridges`)
  await type(page, 'Wind', 'Skerry bridge, end A', 1, ['0.65', '2', '1'])
  // 42 m/s on 0.65 m: 0.5 x 1.25 x 42^2 x 1.17 x 0.3318 m2.
  await expect(row(page, 'Wind', 'Skerry bridge, end A')).toContainText(
    '428 N, 856 N m at the foot; stand and ballast 131 kg or more',
  )
  await type(page, 'Survey with another antenna', 'Skerry bridge, end A', 1, ['-70', '13'])
  await expect(row(page, 'Survey with another antenna', 'Skerry bridge, end A')).toContainText('−60.0')
  await type(page, 'As set on the devices', 'Skerry bridge, end B', 1, ['5620'])
  await expect(lookout(page).getByText('MHz: 5600 at the first end, 5620 at the second.')).toBeVisible()
  await type(page, 'As set on the devices', 'Skerry bridge, end B', 1, ['5600'])
  await expect(lookout(page).getByText('ends do not find each other')).toBeHidden()
  await accessible(page)
})
