// Question: what address does the laptop need for a device's first access, and what may not stand beside it?
// Method: the model's factory behaviour says where the device is; the laptop takes another host of that
// subnet.
// Source: common practice (first access by DHCP, by a fixed factory address, or by a channel knob);
// RFC 3927 for 169.254.
import { contains, formatIpv4, ipv4, parseIpv4, parsePrefix4, usable, readInterface4 } from '#core/address'
import { orNull } from '#core/util'
import { modelOf, type PlanIndex } from '#core/queries'
import type { Device, Factory, DeviceId } from '#core/schema'

export interface BenchLine {
  readonly deviceId: DeviceId
  readonly factory: Factory
  /** Address and length to type into the laptop; null where it takes one by DHCP. */
  readonly laptop: string | null
  /** Wi-Fi to join for it; empty where it sends none as it comes. */
  readonly ssid: string
  /** Address to open; null where it must be looked up in the leases. */
  readonly open: string | null
  /** Devices that may not be on the bench at the same time: they answer at the same address. */
  readonly notWith: readonly string[]
  /**
   * Networks of the plan that hold its factory address: not to be plugged into the live site before it is
   * changed.
   */
  readonly notInto: readonly string[]
  /** True where its factory address is that of a gateway of the plan. */
  readonly isGateway: boolean
}

/** Another host of the same subnet: the last usable one, or the one before it where the device has that. */
function laptopBeside(address: string): string | null {
  const own = readInterface4(address)
  if (!own) return null
  const { to } = usable(own.prefix)
  return `${formatIpv4(own.address === to ? ipv4(to - 1) : to)}/${own.prefix.length}`
}

/** Factory address with the channel knob at a setting. Worked: base 192.0.2.100, channel 4 -> 192.0.2.104. */
export function channelAddress(base: string, channel: number): string | null {
  const own = readInterface4(base)
  return own && `${formatIpv4(ipv4(own.address + channel))}/${own.prefix.length}`
}

/** Whether a device is the end of a radio link that joins the other. */
const isStation = ({ plan }: PlanIndex, { id }: Device): boolean =>
  plan.links.some((link) => {
    const { medium } = link
    if (medium.kind !== 'radio') return false
    return (['a', 'b'] as const).some(
      (end) => link[end].deviceId === id && medium.radio.ends[end].role === 'station',
    )
  })

function addressOf(index: PlanIndex, device: Device, factory: Factory): string | null {
  if (factory.kind === 'dhcp-server' || factory.kind === 'fixed') return factory.address
  if (factory.kind !== 'channel') return null
  const base = isStation(index, device) ? (factory.stationAddress ?? factory.address) : factory.address
  return channelAddress(base, factory.channel)
}

/** Bench lines for devices whose model says how they come from the factory, in plan order. */
export function benchLines(index: PlanIndex, isWanted: (device: Device) => boolean): BenchLine[] {
  const known = index.plan.devices.filter(isWanted).flatMap((device) => {
    const model = modelOf(index, device.model)
    if (!model) return []
    const { factory, factorySsid } = model
    return [{ device, factory, ssid: factorySsid, address: addressOf(index, device, factory) }]
  })
  return known.map(({ device, factory, ssid, address }) => {
    const ip = address?.split('/')[0] ?? null
    const parsed = ip === null ? null : orNull(parseIpv4(ip))
    const inside =
      parsed === null
        ? []
        : index.plan.networks.filter((network) => {
            const subnet = orNull(parsePrefix4(network.subnet))
            return subnet !== null && contains(subnet, parsed)
          })
    return {
      deviceId: device.id,
      factory,
      ssid,
      open: ip,
      laptop: address !== null && factory.kind !== 'dhcp-server' ? laptopBeside(address) : null,
      notWith:
        address === null
          ? []
          : known.filter((k) => k.device.id !== device.id && k.address === address).map((k) => k.device.id),
      notInto: inside.map((n) => n.id),
      isGateway: ip !== null && index.plan.networks.some((n) => n.gateway === ip),
    }
  })
}
