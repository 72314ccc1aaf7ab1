import { accessible, cell, choose, lookout, test, expect } from './fixtures'

test('Tunnels: keys are made, shown once on purpose with a code to scan, and noted', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/tunnels`)
  await expect(page.getByText('PrivateKey = KEY-WANTED')).toBeVisible()
  await accessible(page)
  await page
    .getByRole('grid', { name: 'Peers' })
    .getByRole('gridcell', { name: 'Surveyor on the road' })
    .click()
  await expect(
    page.getByRole('heading', { name: 'Configuration file of Surveyor on the road' }),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Make keys' }).click()
  await expect(page.getByText(/never shown\.$/)).toBeVisible()
  await page.getByRole('button', { name: 'Show its file with the private key' }).click()
  await expect(page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/)).toBeVisible()
  await expect(page.getByRole('img', { name: 'The file as a QR code' })).toBeVisible()
  await page.getByRole('button', { name: 'Hide it' }).click()
  await expect(page.getByText('PrivateKey = KEY-WANTED')).toBeVisible()
  await expect(page.getByText(/shown last .* to Planner\.$/)).toBeVisible()
  // It changes its key: both are let in until a day, and the new file is shown on purpose.
  await page.getByRole('button', { name: /^Change its key/ }).click()
  await expect(page.getByText(/Its new file has not been shown yet/)).toBeVisible()
  await expect(
    lookout(page).getByRole('button', { name: /^Surveyor on the road has two keys until/ }),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Show its new file with the private key' }).click()
  const fresh = await page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/).textContent()
  await page.getByRole('button', { name: 'Hide it' }).click()
  await page.getByRole('button', { name: 'Show its file with the private key' }).click()
  await expect(page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/)).not.toHaveText(fresh ?? '')
  await page.getByRole('button', { name: 'Hide it' }).click()
  await page.getByRole('button', { name: 'Finish: remove the old key' }).click()
  await page.getByRole('button', { name: 'Show its file with the private key' }).click()
  await expect(page.getByText(/PrivateKey = [A-Za-z0-9+/]{43}=/)).toHaveText(fresh ?? '')
  await page.getByRole('button', { name: 'Hide it' }).click()
  // A peer that claims another's addresses is told, and the Lookout leads to it.
  await page.getByRole('grid', { name: 'Peers' }).getByRole('gridcell', { name: 'Boat crew' }).click()
  await page.getByRole('grid', { name: 'Peers' }).getByRole('gridcell', { name: '10.61.20.5/32' }).dblclick()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('10.61.20.4/32')
  await page.keyboard.press('Enter')
  await expect(
    lookout(page).getByRole('button', {
      name: 'Boat crew and Surveyor on the road claim the same addresses',
    }),
  ).toBeVisible()
})

test.describe('Device files', () => {
  test('shows what each device is told, file by file', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/files`)
    await expect(page.getByLabel('nftables.conf')).toContainText('policy drop')
    await accessible(page)
    await page.getByRole('textbox', { name: 'nftables.conf' }).click()
    await page.keyboard.press('Control+f')
    await page.keyboard.type('masquerade')
    await page.keyboard.press('Enter')
    await expect(page.locator('.cm-searchMatch-selected')).toHaveText('masquerade')
    await page.keyboard.press('Escape')
    // It is read, not written.
    await page.keyboard.press('Control+Home')
    await page.keyboard.type('flush')
    await expect(page.locator('.cm-line', { hasText: 'flush ruleset' })).toHaveText('flush ruleset')
    await page.getByRole('option', { name: /^DHCP, Kea/ }).click()
    await expect(page.getByLabel('kea-dhcp4.json')).toContainText('"subnet": "10.61.0.0/24"')
    await choose(page, 'Device', 'Laboratory switch')
    await expect(page.getByLabel('lab-switch.json')).toContainText('able-mast:bridge-port')
  })

  test('compares what a gateway runs with the plan', async ({ planner: page, copy }) => {
    await page.goto(`/sites/${copy}/files`)
    await page.getByRole('tab', { name: 'Compare with what runs' }).click()
    const printed = page.getByRole('textbox', { name: 'What the gateway prints' })
    await printed.fill('the firewall is fine')
    await page.getByRole('button', { name: 'Compare' }).click()
    await expect(page.getByRole('alert')).toContainText('does not begin like anything that is read here')
    await printed.fill(
      '[{"priority":0,"table":"local"},{"priority":77,"table":"7"},{"priority":32766,"table":"main"},' +
        '{"priority":32767,"table":"default"}]',
    )
    await page.getByRole('button', { name: 'Compare' }).click()
    await expect(page.getByRole('status')).toContainText('in the choice between routing tables')
    await expect(page.getByText('ip rule 77 is not planned')).toBeVisible()
    await expect(page.getByText('ip rule 100 is missing')).toBeVisible()
  })
})

test('a WireGuard file from elsewhere becomes a tunnel, with its key sealed', async ({
  planner: page,
  copy,
}) => {
  await page.goto(`/sites/${copy}/tunnels`)
  await page.getByRole('button', { name: 'Import a file' }).click()
  const dialog = page.getByRole('dialog', { name: 'Import a WireGuard file' })
  const paste = dialog.getByRole('textbox', { name: 'or paste it' })
  await paste.fill('[Interface]\nAddress = 10.66.12.9/32\n[Peer]\nAllowedIPs = 0.0.0.0/0')
  await expect(dialog.getByRole('alert')).toContainText('line 3: a [Peer] without a PublicKey')
  // The example keys of wg(8).
  await paste.fill(
    '[Interface]\nPrivateKey = yAnz5TF+lXXJte14tji3zlMNq+hd2rYUIgJBgB3fBmk=\nAddress = ' +
      '10.66.12.9/32\nPostUp = true\n[Peer]\nPublicKey = ' +
      'xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg=\nAllowedIPs = 0.0.0.0/0\nEndpoint = ' +
      '203.0.113.77:51820',
  )
  await expect(dialog.getByRole('list', { name: 'Left out' })).toContainText(
    'nothing is run that a file asks for',
  )
  await dialog.getByRole('button', { name: 'Add tunnel' }).click()
  await expect(page.getByRole('heading', { name: 'In Provider' })).toBeVisible()
  await expect(page.getByText(/Keys made .* by Planner; never shown/)).toBeVisible()
})

test('an IPsec sheet says whether both ends fit, and what is outdated', async ({ planner: page, copy }) => {
  await page.goto(`/sites/${copy}/tunnels`)
  await page.getByRole('tab', { name: /IPsec/ }).click()
  await expect(page.getByText('The ends fit.')).toBeVisible()
  await accessible(page)
  await cell(page, 'IPsec parameters', 'Key exchange: groups', 1).dblclick()
  await page.getByRole('textbox', { name: 'Here' }).fill('2')
  await page.keyboard.press('Enter')
  await expect(page.getByText('The ends do not fit in one point')).toBeVisible()
  await expect(
    lookout(page).getByText('No key exchange group in common for the key exchange: 2 here, 19, 14 there.'),
  ).toBeVisible()
  await expect(lookout(page).getByText('Harbour Office: outdated algorithms')).toBeVisible()
})
