import { describe, expect, it } from 'vitest'
import { ACTIONS, search, entriesOf } from '~/shell/search'
import { SHEETS } from '~/shell/sheets'
import { base } from '../plans'

const plan = base()
const found = (sought: string) => search([...ACTIONS, ...entriesOf(plan)], sought).map(({ name }) => name)

describe('the search', () => {
  it('finds by name, address, VLAN and MAC address whatever has one', () => {
    for (const network of plan.networks) {
      expect(found(network.name)[0]).toContain(network.name)
      expect(found(`vlan ${network.vlan}`).some((name) => name.startsWith(network.name))).toBe(true)
      expect(found(network.gateway).some((name) => name.startsWith(network.name))).toBe(true)
      for (const fixed of network.fixed) {
        expect(found(fixed.ip)).toContain(`${fixed.ip} ${fixed.name}`)
        if (fixed.mac) expect(found(fixed.mac)).toContain(`${fixed.ip} ${fixed.name}`)
      }
    }
    const devices = plan.devices.filter(({ kind }) => kind !== 'cloud')
    for (const { name } of [...devices, ...plan.uplinks, ...plan.tunnels, ...plan.ssids])
      expect(found(name)).toContain(name)
  })

  it.each([
    ['add network', 'Add a network'],
    ['delete network', 'Delete or rename a network'],
    ['rename device', 'Delete or rename a device'],
    ['new vpn', 'Add a tunnel'],
    ['backup', 'Export the site'],
    ['firewall', 'Add a rule'],
  ])('knows "%s"', (sought, action) => {
    expect(found(sought)[0]).toBe(action)
  })

  it('leads to sheets that there are', () => {
    const sheets = new Set(SHEETS.map(({ key }) => key))
    for (const { sheet } of [...ACTIONS, ...entriesOf(plan)]) expect(sheets).toContain(sheet)
  })

  it('finds nothing for what is nowhere', () => {
    expect(found('zeppelin')).toEqual([])
  })
})
