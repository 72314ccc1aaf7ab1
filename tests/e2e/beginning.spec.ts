import type { Page } from '@playwright/test'
import { accessible, cell, choose, lookout, row, saved, test, expect } from './fixtures'

/** Adds a device by its dialog; `rest`: what else is typed into that. */
async function addDevice(
  page: Page,
  [name, kind, model, far]: readonly [name: string, kind: string, model: string, far: string],
  rest: () => Promise<unknown> = async () => undefined,
): Promise<void> {
  await page.getByRole('button', { name: 'Add a device', exact: true }).click()
  await page.getByRole('textbox', { name: 'Name' }).fill(name)
  await choose(page, 'Kind', kind)
  if (model) await choose(page, 'Model', new RegExp(`^${model}, `))
  await rest()
  if (far) await page.getByRole('combobox', { name: 'To', exact: true }).fill(far)
  await page.getByRole('button', { name: 'Add device' }).click()
}

/** Gives ports of a device to a VLAN by the dialog for many at once. */
async function setPorts(page: Page, device: string, ports: string): Promise<void> {
  await page.getByRole('button', { name: 'Set ports' }).click()
  await choose(page, 'Device', device)
  await page.getByRole('textbox', { name: 'Ports', exact: true }).fill(ports)
  await page.getByRole('textbox', { name: 'VLAN', exact: true }).fill('10')
  await page.getByRole('button', { name: 'Apply', exact: true }).click()
}

test.describe('from nothing to a plan', () => {
  test('a site is begun, gets an uplink, a network, a gateway, a switch and hosts, and is right', async ({
    planner: page,
  }) => {
    const name = `Beginning ${Date.now() % 100_000}`
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(name)
    await page.getByRole('radio', { name: 'An empty plan' }).check()
    await page.getByRole('textbox', { name: 'Address block' }).fill('10.77.0.0')
    await expect(page.getByRole('button', { name: 'Create site' })).toBeDisabled()
    await page.getByRole('textbox', { name: 'Address block' }).fill('10.77.0.0/20')
    await page.getByRole('button', { name: 'Create site' }).click()
    await expect(page.getByRole('heading', { name: 'Brief', level: 1 })).toBeVisible()
    // A site just begun is told what it lacks, and nowhere that it is complete or right.
    await expect(lookout(page)).toContainText('Nothing can be said yet. The plan has no gateway, no networks')
    await expect(page.getByRole('navigation', { name: 'Stages' })).not.toContainText(
      /complete|nothing to mend|as intended|0 of 0/,
    )
    await page.getByRole('tab', { name: /Needs/ }).click()
    await page.getByRole('button', { name: 'Add a need' }).click()
    await page.keyboard.press('g')
    await page.keyboard.press('l')
    await addDevice(page, ['Front gateway', 'gateway', 'G4', ''])
    await addDevice(page, ['Hall switch', 'switch', 'S8P', 'Front gateway 9'])
    await expect(page.getByRole('alert')).toContainText('Nothing was added: there is no port Front gateway 9')
    await page.getByRole('combobox', { name: 'To', exact: true }).fill('Front gateway 3')
    await page.getByRole('button', { name: 'Add device' }).click()
    await expect(page.getByRole('button', { name: 'Hall switch S8P', exact: true })).toBeVisible()
    await page.keyboard.press('g')
    await page.keyboard.press('b')
    await page.getByRole('tab', { name: /Uplinks/ }).click()
    await page.getByRole('button', { name: 'Add an uplink', exact: true }).click()
    await expect(row(page, 'Each uplink as its provider made it', 'Uplink 1')).toBeVisible()
    await page.keyboard.press('g')
    await page.keyboard.press('a')
    await page.getByRole('button', { name: 'Assign subnets' }).click()
    await page.getByRole('button', { name: 'Apply 1 network' }).click()
    await expect(row(page, 'Networks', 'New need')).toContainText('10.77.10.0/24')
    await page.keyboard.press('g')
    await page.keyboard.press('l')
    await setPorts(page, 'Front gateway, G4', '3')
    await setPorts(page, 'Hall switch, S8P', '1-8')
    await addDevice(page, ['Clerks', 'hosts', '', 'Hall switch 2'], () =>
      choose(page, 'Network', 'New need 10'),
    )
    await expect(page.getByRole('button', { name: /Hall switch 2 to Clerks 1: VLAN 10/ })).toBeVisible()
    await expect(lookout(page).getByText(/stops short|land in/)).toHaveCount(0)
    await page.getByRole('button', { name: 'Remove Clerks' }).click()
    await expect(page.getByRole('button', { name: 'Clerks', exact: true })).toHaveCount(0)
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByRole('button', { name: 'Clerks', exact: true })).toBeVisible()
  })

  test('an empty site is begun by keys alone, and no sheet calls it right', async ({ planner: page }) => {
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).focus()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('textbox', { name: 'Site name' })).toBeFocused()
    await page.keyboard.type(`By keys ${Date.now() % 100_000}`)
    await page.keyboard.press('Tab')
    await page.keyboard.press('ArrowRight')
    await expect(page.getByRole('radio', { name: 'An empty plan' })).toBeChecked()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Brief', level: 1 })).toBeVisible()
    await page.keyboard.press('g')
    await page.keyboard.press('t')
    await expect(page.getByText('No intent yet: what must pass is said on Rules')).toBeVisible()
    await expect(page.getByText('Nothing can be judged yet.')).toBeVisible()
    await page.keyboard.press('Control+k')
    await page.getByRole('combobox', { name: 'Find or do' }).fill('add network')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Addresses', level: 1 })).toBeVisible()
    await expect(page.getByRole('grid', { name: 'Networks' }).getByRole('row')).toHaveCount(2)
  })

  test('a small office with guests is laid out, and its devices are renamed and put on Wi-Fi', async ({
    planner: page,
  }) => {
    const name = `Office ${Date.now() % 100_000}`
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(name)
    await page.getByRole('textbox', { name: 'Access points' }).fill('21')
    await expect(page.getByRole('dialog')).toContainText('21 is not a whole number from 0 to 20')
    await page.getByRole('textbox', { name: 'Access points' }).fill('2')
    await page.getByRole('textbox', { name: 'Country' }).fill('NO')
    await accessible(page)
    await expect(page.getByRole('dialog')).toContainText(
      '3 networks, 1 internet connection, 1 gateway, 1 switch',
    )
    await page.getByRole('button', { name: 'Create site' }).click()
    await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
    // Nothing is wrong: what is left are facts of the line that somebody must find out.
    await expect(lookout(page).getByText('blocker')).toHaveCount(0)
    await page.getByRole('tab', { name: /Devices/ }).click()
    const type = async (device: string, column: number, text: string) => {
      await cell(page, 'Devices', device, column).click()
      await page.keyboard.press('Enter')
      await page.keyboard.type(text)
      await page.keyboard.press('Enter')
    }
    await type('Desks', 0, 'Clerks')
    await type('Clerks', 5, '8')
    await expect(row(page, 'Devices', 'Clerks')).toContainText('8')
    await expect(page.getByText('Desks', { exact: true })).toHaveCount(0)
    // By keyboard: a name that another has is refused with the reason.
    await type('Clerks', 0, 'Gateway')
    await expect(page.getByText('there is a Gateway already')).toBeVisible()
    await page.keyboard.press('Escape')
    await addDevice(page, ['Meters', 'hosts', '', ''], () => choose(page, 'Joins Wi-Fi', /^[A-Z]\w+$/))
    await expect(row(page, 'Devices', 'Meters')).toContainText('Main')
    await expect(lookout(page).getByText(/Meters/)).toHaveCount(0)
  })

  test('a cable is laid and taken out in the table', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/loom`)
    await page.getByRole('button', { name: 'Skerry switch S8P', exact: true }).click()
    const far = page
      .getByRole('row', { name: /^Skerry switch 6 / })
      .getByRole('gridcell')
      .nth(5)
    await far.dblclick()
    const field = page.getByRole('textbox', { name: 'Connected to' })
    await field.fill('Laboratory switch 22')
    await expect(page.getByRole('alert')).toHaveText('Laboratory switch 22 has a cable already')
    await field.fill('Laboratory switch 27')
    await page.keyboard.press('Enter')
    await expect(far).toHaveText('Laboratory switch 27')
    await saved(page, 2)
  })

  test('the fleet shows who else uses the same addresses', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/brief`)
    await page.getByRole('tab', { name: /Around/ }).click()
    await expect(
      page.getByRole('row', {
        name: /Gullhaven, clean copy Management \(10\.61\.0\.0\/24\), Staff \(10\.61\.1\.0\/24\)/,
      }),
    ).toBeVisible()
    await expect(page.getByText('Carrow Mainland Office')).toHaveCount(0)
  })
})

test.describe('a site of one’s own', () => {
  test('is a copy of another, gets a name of its own, and what is looked for by name is done', async ({
    planner: page,
  }) => {
    const name = `Sister ${Date.now() % 100_000}`
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(name)
    await page.getByRole('radio', { name: 'A copy of another site' }).check()
    await expect(page.getByRole('button', { name: 'Create site' })).toBeDisabled()
    await choose(page, 'Site to copy', 'Gullhaven, clean copy')
    await accessible(page)
    await page.getByRole('button', { name: 'Create site' }).click()
    await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
    await expect(page.getByRole('banner')).toContainText(name)

    // Renamed, and its address block changed; what is half typed stays out of the plan.
    await page.keyboard.press('g')
    await page.keyboard.press('b')
    await page.getByRole('tab', { name: 'Site and places' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(`${name} north`)
    await expect(page.getByRole('banner')).toContainText(`${name} north`)
    await page.getByRole('textbox', { name: 'Address block' }).fill('10.61.0.0/400')
    await expect(page.getByText('10.61.0.0/400: a prefix length is 0 to 32')).toBeVisible()
    await page.getByRole('textbox', { name: 'Address block' }).blur()
    await expect(page.getByRole('textbox', { name: 'Address block' })).toHaveValue(/^10\.\d+\.0\.0\/\d+$/)

    // Words that people look for press the button.
    await page.keyboard.press('Control+k')
    await expect(page.getByRole('combobox', { name: 'Find or do' })).toBeFocused()
    await page.keyboard.type('new vpn')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Tunnels', level: 1 })).toBeVisible()
    await expect(page.getByRole('grid', { name: 'Tunnels' }).getByRole('row')).toHaveCount(3)
  })

  test('begins with a template that one kept, which stays when the site changes', async ({
    planner: page,
    copy,
  }) => {
    const name = `Small office ${Date.now() % 100_000}`
    await page.goto(`/sites/${copy}/brief`)
    await page.getByRole('tab', { name: 'Site and places' }).click()
    await page.getByRole('button', { name: 'Save as a template' }).click()
    const dialog = page.getByRole('dialog', { name: 'Save as a template' })
    await dialog.getByRole('textbox', { name: 'Name of the template' }).fill(name)
    await accessible(page)
    await page.keyboard.press('Enter')
    await expect(page.getByText(`Saved as ${name}`)).toBeVisible()
    // Its name is taken now: the dialog says so, and stays.
    await page.getByRole('button', { name: 'Save as a template' }).click()
    await dialog.getByRole('textbox').fill(name)
    await page.keyboard.press('Enter')
    await expect(dialog.getByRole('alert')).toContainText(`there is a template ${name} already`)
    await dialog.getByRole('button', { name: 'Cancel' }).click()

    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('textbox', { name: 'Site name' }).fill(`${name}, first`)
    await page.getByRole('radio', { name: 'A template' }).check()
    await expect(page.getByRole('button', { name: 'Create site' })).toBeDisabled()
    await choose(page, 'Template', name)
    await accessible(page)
    await page.getByRole('button', { name: 'Create site' }).click()
    await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
    await expect(page.getByRole('banner')).toContainText(`${name}, first`)

    // It goes; the site that was made from it stays.
    await page.goto('/')
    await page.getByRole('button', { name: 'New site' }).click()
    await page.getByRole('radio', { name: 'A template' }).check()
    await choose(page, 'Template', name)
    await page.getByRole('button', { name: 'Remove this template' }).click()
    await expect(page.getByRole('button', { name: 'Remove this template' })).toHaveCount(0)
    await page.getByRole('button', { name: 'Cancel' }).click()
    await expect(page.getByRole('link', { name: `${name}, first` })).toBeVisible()
  })

  test('a static route is checked as it is typed, laid, and judged', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/uplinks`)
    await page.getByRole('tab', { name: /Static routes/ }).click()
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('10.99.0.0/33')
    await expect(page.getByRole('button', { name: 'Add route' })).toBeDisabled()
    await page.getByRole('textbox', { name: 'To', exact: true }).fill('10.99.0.0/16')
    await page.getByRole('textbox', { name: 'Next hop', exact: true }).fill('10.98.0.1')
    await page.keyboard.press('Enter')
    await expect(row(page, 'Static routes', '10.99.0.0/16')).toContainText('10.98.0.1')
    // Nobody hears that next hop: it says so, and leads back here.
    await expect(lookout(page)).toContainText('10.98.0.1')
    await accessible(page)
    await page.getByRole('button', { name: 'Remove to 10.99.0.0/16' }).click()
    await expect(page.getByRole('grid', { name: 'Static routes' })).not.toContainText('10.99.0.0')
  })
})
