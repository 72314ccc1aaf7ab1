import type { Page } from '@playwright/test'
import { makeSerial } from '#core/queries'
import { cell, lookout, row, test, expect } from './fixtures'
import { Steps } from './steps'

// Ordinary jobs on a site of one's own, from nothing, as a new user does them; how many actions each may take.

/** A new site with a first plan; `rest`: what else is answered before it is made. */
async function begin(
  page: Page,
  steps: Steps,
  name: string,
  rest: () => Promise<void> = async () => undefined,
): Promise<void> {
  await page.goto('/')
  await steps.press('New site')
  await steps.type('Site name', `${name} ${Date.now() % 100_000}`)
  await steps.type('Country, two letters', 'NO')
  await rest()
  await steps.press('Create site')
  await expect(page.getByRole('heading', { name: 'Loom', level: 1 })).toBeVisible()
}

test.describe('jobs on a new site', () => {
  test('a small office with guests, a router in front, and power for one access point more', async ({
    planner: page,
  }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Small office', async () => {
      await steps.type('Desks with a cable', '8')
      await steps.type('Access points', '3')
      await steps.click(page.getByRole('checkbox', { name: /another router/ }))
    })
    await expect(lookout(page).getByText('blocker')).toHaveCount(0)
    await steps.click(page.getByRole('tab', { name: /^Devices/ }))
    await steps.cell('Devices', 'Desks', 0, 'Clerks')
    await expect(row(page, 'Devices', 'Clerks')).toContainText('8')
    // Two translations in a row: the finding leads to the field in which one of them ends.
    await steps.press('Uplink 1: two address translations in a row', lookout(page))
    await steps.pick(
      row(page, 'Each uplink as its provider made it', 'Uplink 1').getByRole('gridcell').nth(11),
      'Modem',
      'bridge',
    )
    await expect(lookout(page).getByText('two address translations')).toHaveCount(0)
    await steps.go('w')
    await expect(page.getByText('3 more A2: 3 by class, 12 by draw')).toBeVisible()
    await steps.go('l')
    await steps.press('Add a device')
    await steps.type('Name', 'Yard AP')
    await steps.choose('Kind', 'access point')
    await steps.choose('Model', /^A2, /)
    await expect(page.getByRole('list', { name: 'Room for more' })).toContainText('3 more A2')
    await steps.seek('To', 'Switch 13')
    await steps.press('Add device')
    await steps.go('w')
    await expect(page.getByText('2 more A2: 2 by class')).toBeVisible()
    await steps.go('r')
    await expect(lookout(page).getByText('blocker')).toHaveCount(0)
    expect(steps.count).toBeLessThanOrEqual(60)
  })

  test('three networks: served, relayed, and with an address kept for one device', async ({
    planner: page,
  }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Three networks')
    await steps.press('Add a device')
    await steps.type('Name', 'Lease server')
    await steps.choose('Kind', 'hosts')
    await steps.choose('Network', /^Main/)
    await steps.seek('To', 'Switch 16')
    await steps.press('Add device')
    await steps.go('a')
    await steps.click(cell(page, 'Networks', 'Main', 1))
    await steps.press('Add an address')
    const kept = page.getByRole('grid', { name: 'Fixed addresses' }).getByRole('row').last()
    await steps.typeIn(kept.getByRole('gridcell').nth(1), 'Lease server')
    const server = await cell(page, 'Fixed addresses', 'Lease server', 0).innerText()
    await steps.press('Add a network')
    const own = page.getByRole('grid', { name: 'Networks' }).getByRole('row').last()
    await steps.typeIn(own.getByRole('gridcell').nth(2), 'Workshop')
    await steps.pick(cell(page, 'Networks', 'Workshop', 5), 'DHCP', 'relay')
    await steps.click(page.getByRole('tab', { name: /DHCP/ }))
    await steps.type('Relay to', server)
    await expect(lookout(page).getByText('blocker')).toHaveCount(0)
    expect(steps.count).toBeLessThanOrEqual(70)
  })

  test('two connections with a probe, and the record of a tried change-over', async ({ planner: page }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Two uplinks', async () => {
      await steps.click(page.getByRole('radio', { name: '2', exact: true }))
    })
    await steps.go('u')
    await expect(page.getByText('Uplink 1 is not probed: when it fails beyond the modem')).toBeVisible()
    await steps.cell('Probes', 'Uplink 1', 1, '203.0.113.9')
    await expect(page.getByText(/^When Uplink 1 dies, traffic is on Uplink 2 after/).last()).toBeVisible()
    await steps.go('p')
    await steps.press('Record Uplink 1 is cut: the next uplink takes over')
    const form = page.getByRole('dialog')
    await steps.click(form.getByRole('radio', { name: 'traffic came back' }))
    await steps.type('Seconds without traffic', '12 s', form)
    await steps.type('Tried from', 'desk 1', form)
    await steps.press('Record result', form)
    await expect(page.getByText(/1 of 15 proven, 0 failed/)).toBeVisible()
    expect(steps.count).toBeLessThanOrEqual(20)
  })

  test('a friend dials in, with another router in front of the gateway', async ({ planner: page }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Dial in', async () => {
      await steps.click(page.getByRole('checkbox', { name: /another router/ }))
    })
    await steps.go('n')
    await steps.press('Add a tunnel')
    await steps.press('Make keys')
    await steps.press('Add a peer')
    await steps.cell('Peers', 'Peer 1', 0, 'Friend')
    // By the names of networks, and of what else there is by its prefix.
    await expect(row(page, 'Peers', 'Friend')).toContainText('10.255.0.0/24, Main +2')
    await steps.cell('Peers', 'Friend', 3, 'main, 10.255.0.0/24')
    await expect(page.getByText('AllowedIPs = 10.0.10.0/24, 10.255.0.0/24')).toBeVisible()
    await steps.press('Make keys')
    // What the modem does is a question, and the question leads to its field.
    await steps.press('Tunnel 1: does the modem in front forward UDP 51820?', lookout(page))
    const forwards = row(page, 'Kept and enabled', 'Uplink 1').getByRole('gridcell').nth(6)
    await expect(forwards).toBeFocused()
    await steps.pick(forwards, 'Modem forwards', 'yes')
    await expect(lookout(page).getByText(/does the modem in front/)).toHaveCount(0)
    await steps.go('n')
    await steps.click(page.getByRole('tab', { name: 'How they meet' }))
    await steps.cell('Tunnels', 'Tunnel 1', 1, 'home.example')
    await steps.click(cell(page, 'Peers', 'Friend', 0))
    await expect(page.getByText('Endpoint = home.example:51820')).toBeVisible()
    await steps.go('s')
    await steps.press('Add a rule')
    await steps.cell('Rules', '6', 2, 'Friend')
    await steps.cell('Rules', 'Friend', 3, 'Main')
    await expect(lookout(page).getByText('Friend: the tunnel leads nowhere')).toHaveCount(0)
    expect(steps.count).toBeLessThanOrEqual(40)
  })

  test('two devices go out by a provider’s tunnel', async ({ planner: page }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'By provider')
    await steps.click(page.getByRole('tab', { name: /^Devices/ }))
    await steps.press('Add a device')
    await steps.type('Name', 'Player')
    await steps.choose('Kind', 'hosts')
    await steps.choose('Joins Wi-Fi', /^[A-Z]\w+$/)
    await steps.press('Add device')
    await expect(row(page, 'Devices', 'Player')).toContainText('Main')
    // What was chosen last time stands there again.
    await steps.press('Add a device')
    await steps.type('Name', 'Console')
    await steps.press('Add device')
    await expect(row(page, 'Devices', 'Console')).toContainText('Main')
    await steps.go('n')
    await steps.press('Import a file')
    // The example keys of wg(8).
    const file = [
      '[Interface]',
      'PrivateKey = yAnz5TF+lXXJte14tji3zlMNq+hd2rYUIgJBgB3fBmk=',
      'Address = 10.66.12.9/32',
      '[Peer]',
      'PublicKey = xTIBA5rboUvnH4htodjb6e697QjLERt1NAB4mZqp8Dg=',
      'AllowedIPs = 0.0.0.0/0',
      'Endpoint = 203.0.113.77:51820',
    ]
    await steps.type('or paste it', file.join('\n'))
    await steps.press('Add tunnel')
    await expect(page.getByRole('heading', { name: 'In Provider' })).toBeVisible()
    // Its key is being sealed; a dialog has the keys to itself until it is gone.
    await expect(page.getByRole('dialog')).toHaveCount(0)
    await steps.go('u')
    await steps.click(page.getByRole('tab', { name: /^Policy routes/ }))
    const routes = page.getByRole('grid', { name: 'Policy routes' })
    for (const [i, name] of ['Player', 'Console'].entries()) {
      await steps.press('Add a policy route')
      const own = routes.getByRole('row').nth(i + 1)
      await steps.typeIn(own.getByRole('gridcell').nth(0), name)
      await steps.pick(own.getByRole('gridcell').nth(2), 'Goes by', 'Provider')
      await expect(own).toContainText('wait')
      await expect(routes.getByRole('button', { name: `Remove ${name} by Provider` })).toBeVisible()
    }
    // The firewall lets nobody into the tunnel yet: one repair for both.
    await steps.press('Add 2 rules for “Main: the internet”', lookout(page))
    await expect(lookout(page).getByText('An intent is not met')).toHaveCount(0)
    await expect(lookout(page).getByText('blocker')).toHaveCount(0)
    expect(steps.count).toBeLessThanOrEqual(35)
  })

  test('two sites that have the same subnet are joined', async ({ planner: page }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Same subnet')
    await steps.go('n')
    await steps.press('Add a tunnel')
    await steps.press('Make keys')
    await steps.press('Add a peer')
    await steps.pick(cell(page, 'Peers', 'Peer 1', 1), 'Type', 'site')
    await steps.cell('Peers', 'Peer 1', 2, '10.0.10.0/24')
    await expect(lookout(page).getByText('Peer 1 overlaps Main')).toBeVisible()
    // Neither can move: here it is known as one prefix, there as another.
    await steps.cell('Peers', 'Peer 1', 2, '10.255.0.2/32, 10.98.10.0/24')
    await steps.press('Keep it alive, every 25 s', lookout(page))
    await steps.click(page.getByRole('tab', { name: 'How they meet' }))
    await steps.cell('Tunnels', 'Tunnel 1', 4, 'Main as 10.99.10.0/24')
    await steps.press('10.99.10.0/24 in the far end’s file', lookout(page))
    await expect(lookout(page).getByText(/^Peer 1 overlaps|sends nothing there/)).toHaveCount(0)
    await steps.go('s')
    for (const [nth, [from, to]] of [
      ['Main', 'Peer 1'],
      ['Peer 1', 'Main'],
    ].entries()) {
      await steps.press('Add a rule')
      await steps.cell('Rules', String(6 + nth), 2, from ?? '')
      await steps.cell('Rules', String(6 + nth), 3, to ?? '')
    }
    await expect(lookout(page).getByText('Peer 1: the tunnel leads nowhere')).toHaveCount(0)
    await steps.go('f')
    await expect(page.getByLabel('nftables.conf')).toContainText('10.99.10.0/24')
    expect(steps.count).toBeLessThanOrEqual(40)
  })

  test('twenty serials come from a list with four kinds of mistakes', async ({ planner: page }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Serials')
    const serials = Array.from({ length: 20 }, (_, i) => makeSerial('GH', `7B${String(i + 10)}K5R`))
    const mac = (i: number) => `00-00-5E-00-53-${(i + 16).toString(16).toUpperCase()}`
    const right = serials.map((serial, i) => `A2,${serial},${mac(i)},${i === 0 ? 'Access point 1' : ''}`)
    // A serial whose last letter is mistyped, a MAC of a group, one serial twice, a device that is not there.
    const last = serials[3]?.at(-1) === 'A' ? 'B' : 'A'
    const wrong = [
      `A2,${serials[3]?.slice(0, -1)}${last},${mac(3)},`,
      `A2,${serials[7]},01-00-5E-00-53-77,`,
      `A2,${serials[10]},${mac(11)},`,
      `A2,${serials[15]},${mac(15)},Attic AP`,
    ]
    const typed = right
      .with(3, wrong[0] ?? '')
      .with(7, wrong[1] ?? '')
      .with(11, wrong[2] ?? '')
      .with(15, wrong[3] ?? '')
    await steps.go('e')
    await steps.press('Import CSV')
    await steps.type('or paste it', ['model,serial,mac,device', ...typed].join('\n'))
    await expect(page.getByText('4 rows cannot be right.')).toBeVisible()
    await steps.press('Import 16 good rows, keep 4 here')
    await steps.type(
      'or paste it',
      ['model,serial,mac,device', ...[3, 7, 11, 15].map((i) => right[i])].join('\n'),
    )
    await steps.press('Import 4 boxes')
    await expect(page.getByRole('grid', { name: 'Boxes' }).getByRole('row')).toHaveCount(21)
    await expect(row(page, 'Boxes', serials[0] ?? '')).toContainText('Access point 1')
    expect(steps.count).toBeLessThanOrEqual(12)
  })

  test('the devices of a new site are tried in the lab, and come in sync', async ({ planner: page }) => {
    const steps = new Steps(page)
    await begin(page, steps, 'Own lab')
    await steps.go('o')
    await steps.press('Simulate 3 devices')
    await steps.press('Power on all 3')
    const strangers = page.getByRole('list', { name: 'Strangers' }).getByRole('listitem')
    await expect(strangers).toHaveCount(3)
    for (let left = 3; left > 0; left--) {
      // For whom it is, is known: the plan says what stands where it is plugged in.
      await steps.click(strangers.first().getByRole('button', { name: /^Claim / }))
      await expect(strangers).toHaveCount(left - 1)
    }
    await expect(page.getByText('3 of 4 in sync').first()).toBeVisible()
    expect(steps.count).toBeLessThanOrEqual(12)
  })

  test('a site is handed over as a file and read elsewhere', async ({ planner: page, copy }) => {
    const steps = new Steps(page)
    await page.goto(`/sites/${copy}/hand-over`)
    const asked = page.waitForEvent('download')
    await steps.click(page.getByRole('link', { name: 'Download Site file' }))
    const path = await (await asked).path()
    await steps.click(page.getByRole('link', { name: 'Able Mast' }))
    const chooser = page.waitForEvent('filechooser')
    await steps.press('Import a site file')
    await (await chooser).setFiles(path)
    await expect(page).not.toHaveURL(new RegExp(`/sites/${copy}/`))
    await expect(page.getByRole('heading', { level: 1 })).toHaveText('Addresses')
    expect(steps.count).toBeLessThanOrEqual(8)
  })
})
