// Question: what is typed so that the laptop has an address, and has none of its own again?
// Method: one of three usual commands, with the usual name of a network card there.
// Source: ip-address(8), netsh(1) and networksetup(8), as documented; from memory.
import { formatIpv4, ipv4, readInterface4 } from '#core/address'

export interface LaptopLines {
  /** The command that the laptop has. */
  readonly command: 'ip' | 'netsh' | 'networksetup'
  readonly set: string
  readonly back: string
}

/** Lines for an address with its length, `192.168.88.254/24`; none for what is no such address. */
export function laptopLines(address: string): LaptopLines[] {
  const own = readInterface4(address)
  if (!own) return []
  const ip = formatIpv4(own.address)
  const mask = formatIpv4(
    ipv4(own.prefix.length === 0 ? 0 : (0xff_ff_ff_ff << (32 - own.prefix.length)) >>> 0),
  )
  return [
    {
      command: 'ip',
      set: `sudo ip address add ${ip}/${own.prefix.length} dev eth0`,
      back: `sudo ip address del ${ip}/${own.prefix.length} dev eth0`,
    },
    {
      command: 'netsh',
      set: `netsh interface ipv4 set address "Ethernet" static ${ip} ${mask}`,
      back: 'netsh interface ipv4 set address "Ethernet" dhcp',
    },
    {
      command: 'networksetup',
      set: `sudo networksetup -setmanual Ethernet ${ip} ${mask}`,
      back: 'sudo networksetup -setdhcp Ethernet',
    },
  ]
}
