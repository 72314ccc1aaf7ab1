import type { Page } from '@playwright/test'
import { accessible, cell, expect, lookout, row, test } from './fixtures'
import { Steps } from './steps'

/** From no drawing to rooms that are judged; an access point is moved by keys. */
async function drawRooms(page: Page, drawn: Steps): Promise<void> {
  await drawn.go('m')
  // Nothing is drawn: nothing is predicted, and nothing called right.
  await expect(page.getByText('No room is drawn yet, so nothing is predicted.')).toBeVisible()
  await expect(row(page, 'Rooms', 'Room 1')).toContainText('not drawn yet')
  await cell(page, 'Rooms', 'Room 1', 7).dblclick()
  await page.keyboard.type('1, 1')
  await expect(page.getByRole('alert').filter({ hasText: 'type its size first' })).toBeVisible()
  await page.keyboard.press('Escape')
  await cell(page, 'Rooms', 'Room 1', 6).dblclick()
  await page.keyboard.type('twelve')
  await expect(page.getByRole('alert').filter({ hasText: '"twelve" is no size' })).toBeVisible()
  await page.keyboard.press('Escape')

  await drawn.cell('Rooms', 'Room 1', 6, '8 x 5')
  await drawn.cell('Rooms', 'Room 2', 6, '10 x 5')
  await expect(row(page, 'Rooms', 'Room 1')).toContainText('served well')
  await expect(row(page, 'Rooms', 'Room 2')).toContainText('8, 0')
  await expect(row(page, 'Access points', 'Access point 1')).toContainText('4, 2.5')
  await expect(
    page.getByRole('group', { name: /ground floor, 5 GHz: 2 rooms, 2 access points/ }),
  ).toBeVisible()
  await accessible(page)

  // Behind concrete and metal the same rooms hear less of each other.
  const roaming = () => cell(page, 'Rooms', 'Room 1', 3).innerText()
  const before = await roaming()
  await drawn.cell('Rooms', 'Room 1', 9, 'concrete')
  await expect.poll(roaming).not.toBe(before)

  // A reading takes the place of what is predicted.
  await cell(page, 'Rooms', 'Room 1', 5).dblclick()
  await page.keyboard.type('40 %')
  await page.keyboard.press('Enter')
  await expect(row(page, 'Rooms', 'Room 1')).toContainText('not served, as read')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Rooms', 'Room 1')).toContainText('served well')

  // So do those of a walk: a room that is none is told by its row, and the least of a room counts.
  await page.getByRole('button', { name: 'Import a walk' }).click()
  const walk = page.getByRole('dialog')
  await walk.getByRole('textbox', { name: 'or paste it' }).fill('Room 1,-66\nRoom 9,-60')
  await expect(walk.getByRole('alert')).toContainText('row 2')
  await walk.getByRole('textbox', { name: 'or paste it' }).fill('Room 1,-66\nRoom 1,-77')
  await walk.getByRole('button', { name: 'Import 1 room' }).click()
  await expect(row(page, 'Rooms', 'Room 1')).toContainText('not served, as read')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Rooms', 'Room 1')).toContainText('served well')

  // By keys alone an access point moves half a metre, as one step to undo.
  await page.getByRole('img', { name: /^Access point 1, 4 m from the left/ }).focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(row(page, 'Access points', 'Access point 1')).toContainText('5, 2.5')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'Access points', 'Access point 1')).toContainText('4, 2.5')
}

/** Channels are planned; what disturbs or is not permitted is told, and its mend ends it. */
async function planChannels(page: Page, drawn: Steps): Promise<void> {
  await drawn.click(page.getByRole('tab', { name: /^Radios/ }))
  await drawn.press('Plan channels')
  await expect(page.getByText('5 GHz, 2 radios: nobody disturbs another.')).toBeVisible()
  await expect(page.getByText(/Permitted in NO as of 20\d\d\.\d\d\.\d\d/)).toBeVisible()
  await accessible(page)
  // Two on one channel are told of, and the mend of the finding ends it.
  const first = row(page, 'Radios', 'Access point 1').first()
  const channel = await row(page, 'Radios', 'Access point 2').first().getByRole('gridcell').nth(2).innerText()
  await drawn.typeIn(first.getByRole('gridcell').nth(2), channel)
  await expect(
    lookout(page).getByText('Access point 1 and Access point 2 share the air on 2.4 GHz'),
  ).toBeVisible()
  await drawn.press('Move 1 radio on 2.4 GHz', lookout(page))
  await expect(lookout(page).getByText(/share the air/)).toBeHidden()
  // More than is permitted is told with the figure.
  await drawn.typeIn(first.getByRole('gridcell').nth(7), '30')
  await expect(first).toContainText('too strong: 33 dBm EIRP, 20 permitted')
  await drawn.press('Send with 17 dBm', lookout(page))
  await expect(first).toContainText('up to 20 dBm EIRP')
}

/** A passphrase is typed, found weak, generated instead, shown and put on a card; an open network has one too. */
async function passphrase(page: Page, steps: Steps): Promise<void> {
  await expect(page.getByRole('row', { name: /none: anybody joins/ })).toBeVisible()
  const table = page.getByRole('table', { name: 'Passphrases' })
  await expect(table).toContainText('none yet')
  await page.getByRole('button', { name: /^Type the passphrase of .* Guests$/ }).click()
  await page.keyboard.type('harbour')
  await page.keyboard.press('Enter')
  await expect(page.getByText('8 to 63 letters')).toBeVisible()
  await page.keyboard.type('!1')
  await expect(table).toContainText('Weak Shorter than 14 characters')
  await accessible(page)
  await page.keyboard.press('Enter')
  await expect(lookout(page).getByText(/^SSID .* Guests: its passphrase is short$/)).toBeVisible()
  await steps.click(page.getByRole('button', { name: /^Generate a passphrase for .* Guests$/ }))
  await expect(lookout(page).getByText(/its passphrase is short$/)).toBeHidden()
  await expect(table).toContainText('not shown yet')
  await steps.click(page.getByRole('button', { name: /^Show the passphrase of .* Guests$/ }))
  const shown = page.getByRole('group', { name: /^Passphrase of .* Guests$/ })
  const generated = (await shown.getByText(/^\w{4}-\w{4}-\w{4}-\w{4}$/).textContent()) ?? ''
  await expect(table).toContainText('to Planner')
  await accessible(page)
  await steps.click(shown.getByRole('link', { name: 'A card to print' }))
  await expect(page.getByRole('article')).toContainText(generated)
  await expect(page.getByRole('img', { name: 'Code by which a telephone joins' })).toBeVisible()
  await accessible(page)
  expect(steps.count).toBeLessThanOrEqual(5)
}

test('the Wi-Fi of a new site: rooms are drawn, judged and moved, channels planned, SSIDs secured', async ({
  planner: page,
}) => {
  const steps = new Steps(page)
  await page.goto('/')
  await steps.press('New site')
  await steps.type('Site name', `Two rooms ${Date.now() % 100_000}`)
  await steps.type('Country, two letters', 'NO')
  await page.getByRole('textbox', { name: 'Rooms' }).fill('2')
  await page.getByRole('textbox', { name: 'Access points' }).fill('2')
  await steps.press('Create site')
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()

  const drawn = new Steps(page)
  await drawRooms(page, drawn)
  await planChannels(page, drawn)
  await drawn.click(page.getByRole('tab', { name: /^SSIDs/ }))
  await drawn.pick(cell(page, 'SSIDs', 'Main', 2), 'Security', 'open')
  await expect(lookout(page).getByText(/^SSID \w+ is open$/)).toBeVisible()
  await accessible(page)
  // Rooms, channels and one SSID: a short job.
  expect(drawn.count).toBeLessThanOrEqual(25)
  await passphrase(page, new Steps(page))
})

test('an extender is judged by what it hears, and moves with the drawing', async ({ planner: page }) => {
  await page.goto('/sites/gullhaven-clean/wifi')
  const extender = row(page, 'Joined by radio', 'Café extender')
  await expect(extender).toContainText('hears enough')
  await expect(extender).toContainText(/\d+ Mb\/s by its two radios/)
  const level = () => extender.getByRole('gridcell').nth(3).innerText()
  const before = await level()
  await cell(page, 'Where extenders hang', 'Café extender', 2).dblclick()
  await page.keyboard.type('9, 5')
  await page.keyboard.press('Enter')
  await expect.poll(level).not.toBe(before)
  await page.keyboard.press('Control+z')
  await expect.poll(level).toBe(before)
})

test('on a new site an extender and an access point join another one by radio', async ({ planner: page }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'New site' }).click()
  await page.getByRole('textbox', { name: 'Site name' }).fill(`Two joined ${Date.now() % 100_000}`)
  await page.getByRole('textbox', { name: 'Access points' }).fill('2')
  await page.getByRole('button', { name: 'Create site' }).click()
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
  const blockers = lookout(page).getByText(/\d blockers?/)

  const steps = new Steps(page)
  await steps.press('Add a device')
  const dialog = page.getByRole('dialog')
  await steps.choose('Kind', 'Wi-Fi extender', dialog)
  await steps.type('Name', 'Attic extender', dialog)
  // What it joins is chosen already; it is reached in that network, and asks for no cable.
  await expect(dialog.getByRole('combobox', { name: 'To' })).toHaveCount(0)
  await accessible(page)
  await steps.press('Add device', dialog)
  await expect(blockers).toHaveCount(0)

  await steps.go('m')
  const joined = row(page, 'Joined by radio', 'Attic extender')
  await expect(joined).toContainText('Access point 1')
  await expect(joined).toContainText('not judged: it hangs in no drawn room')
  // A name of its own begins with the one that it repeats.
  const sentAs = cell(page, 'Where extenders hang', 'Attic extender', 1)
  const repeated = (await sentAs.textContent()) ?? ''
  await sentAs.focus()
  await page.keyboard.press('Enter')
  await page.keyboard.press('End')
  await page.keyboard.type('_EXT')
  await page.keyboard.press('Enter')
  await expect(sentAs).toHaveText(`${repeated}_EXT`)
  // An access point by radio instead of its cable: which network it carries, and that it has no power now, is told.
  const fed = cell(page, 'Access points', 'Access point 2', 2)
  await expect(fed).toHaveText('a cable')
  await fed.dblclick()
  const list = page.getByRole('combobox', { name: 'Fed by', exact: true })
  await list.selectOption({ index: 1 })
  await page.keyboard.press('Enter')
  await expect(row(page, 'Joined by radio', 'Access point 2')).toContainText('one network, as a repeater')
  await expect(lookout(page).getByText('Access point 2 gets no power')).toBeVisible()
  await expect(lookout(page).getByText('A loop that nothing breaks')).toBeHidden()
  const cannot = lookout(page).getByText(/^Access point 2 cannot send /)
  await steps.press('Use 4-address frames', lookout(page))
  await expect(cannot).toBeHidden()
  await expect(lookout(page).getByText(/stops short$/)).toBeHidden()
  await expect(row(page, 'Joined by radio', 'Access point 2')).toContainText('all tags, as a bridge')
  expect(steps.count).toBeLessThanOrEqual(8)
  await accessible(page)
  // On its cable again, as it was.
  for (let step = 0; step < 2; step++) await page.keyboard.press('Control+z')
  await expect(fed).toHaveText('a cable')
})

test('what nobody has written down of an access point is added in one step', async ({ planner: page }) => {
  await page.goto('/sites/carrow/wifi')
  await page.getByRole('tab', { name: /^Radios/ }).click()
  await expect(row(page, 'Radios', 'AP').first()).toContainText('auto')
  await expect(page.getByRole('button', { name: /^Add usual radios/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Add a network heard' }).click()
  await expect(page.getByRole('grid', { name: 'Networks of others' }).getByRole('row')).toHaveCount(2)
  await page.keyboard.press('Control+z')
  await expect(page.getByText('Nobody else was written down')).toBeVisible()
  await page.getByRole('button', { name: 'Import a scan' }).click()
  const dialog = page.getByRole('dialog', { name: 'Import a scan' })
  const pasted = dialog.getByRole('textbox', { name: 'or paste it' })
  await pasted.fill('nothing of the kind')
  await expect(dialog.getByRole('alert')).toContainText('no network is listed here')
  await pasted.fill('BSS 02:00:5e:10:00:01(on wlan0)\n\tfreq: 2462\n\tsignal: -61.00 dBm\n\tSSID: Chandlery')
  await accessible(page)
  await dialog.getByRole('button', { name: 'Import 1 network' }).click()
  await expect(row(page, 'Networks of others', 'Chandlery')).toContainText('11')
  await page.keyboard.press('Control+z')
  await expect(page.getByText('Nobody else was written down')).toBeVisible()
})
