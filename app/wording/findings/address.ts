import type { FindingValues } from '#core/findings'
import { leaseText } from '../lease'
import type { FindingWords, MendWords } from './words'

// What the findings of addressing say, and the buttons of their mends.

/** What is typed wrongly into a device, as a title. */
const MISTYPED = {
  'mask-as-gateway': 'a mask in the wrong field',
  'mask-as-address': 'a mask in the wrong field',
  'other-mask': "mask is not its network's",
  'own-as-gateway': 'is its own gateway',
} as const
function mistypedWords(values: FindingValues['A11']): string {
  if (values.kind === 'other-mask')
    return `${values.text} was typed into the device; the network is ${values.subnet}.`
  if (values.kind === 'own-as-gateway') return `${values.text} is typed as address and as gateway.`
  const place = values.kind === 'mask-as-gateway' ? 'address of the gateway' : 'address'
  return `${values.text} is a mask; it stands where an ${place} belongs.`
}

function strayWords({ kind, subnet }: FindingValues['A26']): string {
  if (kind === 'outside') return `It lies outside ${subnet}.`
  return kind === 'base'
    ? `It is the address of ${subnet} itself.`
    : `It is the broadcast address of ${subnet}.`
}

export const ADDRESS_WORDS = {
  A01: (values) => ({
    title: `${values.network}: gateway outside its subnet`,
    what: `${values.gateway} is not in ${values.subnet}.`,
    why: 'Its hosts would have an address and no way out.',
  }),
  A02: (values) => ({
    title: `${values.network}: gateway is not a host address`,
    what: `${values.gateway} is the network or broadcast address of ${values.subnet}.`,
    why: 'No device may own it.',
  }),
  A03: (values) => ({
    title: `${values.network}: pool holds a fixed address`,
    what: `${values.ip} (${values.name}) lies in the DHCP pool.`,
    why:
      values.kind === 'gateway'
        ? 'The files made here never lease it; a server that is set up by hand may.'
        : 'The server will lease it to somebody else, and both will fail in turn.',
  }),
  A04: (values) => ({
    title: `${values.network}: pool leaves its subnet`,
    what: `${values.from} to ${values.to} is not all inside ${values.subnet}.`,
    why: 'Clients would get addresses that cannot reach the gateway.',
  }),
  A05: (values) => ({
    title: `${values.network} overlaps ${values.other}`,
    what: `${values.subnet} and ${values.otherSubnet} share addresses.`,
    why: 'The gateway cannot tell which network such an address is in.',
  }),
  A06: (values) => ({
    title: `${values.network} overlaps the ${values.uplink} uplink`,
    what: `${values.subnet} and ${values.address}, which the gateway has on that uplink, share addresses.`,
    why: 'The gateway has the same network on both sides: nothing is routed.',
  }),
  A07: (values) => ({
    title: `${values.network} overlaps ${values.far}`,
    what:
      `${values.subnet} and ${values.other}, ` +
      `${values.kind === 'tunnel' ? 'inside the tunnel' : 'over there'}, share addresses.`,
    why: 'A tunnel cannot tell which side such an address is on. Renumber one of them.',
  }),
  A08: (values) => ({
    title: `${values.ip} is given twice`,
    what: `To ${values.name} and to ${values.other}.`,
    why: 'Two devices with one address take turns at being unreachable.',
  }),
  A09: (values) => ({
    title: `${values.network}: public addresses inside`,
    what: `${values.subnet} is not private space (RFC 1918).`,
    why:
      'Its real owners on the internet become unreachable from here. Where your provider routes it to you, ' +
      'write it at the uplink that it comes by.',
  }),
  A10: (values) => ({
    title: `${values.network}: pool is short`,
    what: `${values.size} addresses for ${values.expected} clients expected at once.`,
    why: 'The last to come get no address.',
  }),
  A11: (values) => ({
    title: `${values.name}: ${MISTYPED[values.kind]}`,
    what: mistypedWords(values),
    why:
      values.kind === 'other-mask'
        ? 'It takes neighbours for strangers, or strangers for neighbours.'
        : 'It finds no way out.',
  }),
  A12: (values) => ({
    title: `${values.network}: lease too long for the turnover`,
    what:
      `${values.arrivalsPerH} an hour, ${values.stayH} h each, lease ` +
      `${leaseText(values.leaseS)}: 1 in ${values.oneIn} finds the ${values.size} ` +
      'addresses taken.',
    why: `Shorten the lease, or a pool of ${values.needed} brings it to 1 in 100.`,
  }),
  A13: (values) => ({
    title: `${values.network}: VLAN ${values.vlan} cannot be used`,
    what: values.other === '' ? 'A VLAN number is 1 to 4094.' : `${values.other} has it already.`,
    why: 'Two networks on one VLAN are one broadcast domain.',
  }),
  A14: (values) => ({
    title: `${values.network}: a subnet everybody uses`,
    what: `${values.subnet} is the usual choice of home routers.`,
    why: 'People dialling in from such a network will not reach this one.',
  }),
  A15: (values) => ({
    title: `${values.network} and ${values.other} share an octet`,
    what: `Both are in third octet ${values.octet}.`,
    why: 'Harmless; harder to read at night.',
  }),
  A16: (values) => ({
    title: `${values.device}: address not reserved`,
    what: `Takes any lease in ${values.network}.`,
    why: 'Nobody will find it after a power cut.',
  }),
  A17: (values) => ({
    title: `${values.network} is outside the site's block`,
    what: `${values.subnet} is not in ${values.supernet}.`,
    why: 'Summaries, tunnels and rules for the site will miss it.',
  }),
  A18: (values) => ({
    title: `${values.network}: one MAC reserved twice`,
    what: `${values.mac} for ${values.name} and for ${values.other}.`,
    why: 'Most servers refuse the second; some hand out either.',
  }),
  A19: (values) => ({
    title: `${values.network}: relay without a server`,
    what:
      values.server === '' ? 'No server is named.' : `${values.server} is not a fixed address of this plan.`,
    why: 'Clients hear nothing and take 169.254 addresses.',
  }),
  A20: (values) => ({
    title:
      `${values.network}: ` +
      (values.kind === 'none' ? 'IPv6 on without a prefix' : "IPv6 prefix outside the site's"),
    what:
      values.kind === 'none'
        ? 'Hosts are to form addresses, but no prefix is given.'
        : `${values.prefix} is not in ${values.site}.`,
    why:
      values.kind === 'none'
        ? 'They form link-local ones alone.'
        : 'Routes and rules for the site will miss it.',
  }),
  A21: (values) => ({
    title: `${values.network} and ${values.other} share IPv6 addresses`,
    what: `${values.prefix} overlaps.`,
    why: 'The gateway cannot tell them apart.',
  }),
  A22: (values) => ({
    title: `${values.network}: SLAAC needs a /64`,
    what: `${values.prefix} leaves ${128 - values.length} bits; hosts form 64 (RFC 4862, RFC 4291).`,
    why: 'They ignore the prefix and get no address.',
  }),
  A23: (values) => ({
    title: `${values.network}: exclusion outside the pool`,
    what: `${values.from} to ${values.to} is not handed out anyway.`,
    why: 'Harmless; perhaps another range was meant.',
  }),
  A25: (values) => ({
    title: `${values.network}: nothing to hand out`,
    what:
      values.kind === 'none'
        ? 'It serves DHCP and has no pool.'
        : 'It serves DHCP, and all of its pool is excluded.',
    why: 'No client gets an address, not even one that is reserved.',
  }),
  A26: (values) => ({
    title: `${values.name}: ${values.ip} is no host of ${values.network}`,
    what: strayWords(values),
    why:
      values.kind === 'outside'
        ? 'Typed in, it finds no neighbour; reserved, the DHCP server hands out another.'
        : 'Nobody can be sure to reach it there.',
  }),
  A24: (values) => {
    if (values.kind === 'outside')
      return {
        title: `${values.name}: IPv6 address outside ${values.network}`,
        what: `${values.text} is not in ${values.prefix}.`,
        why: 'Its router is out of its reach, and answers never find it.',
      }
    if (values.kind === 'twice')
      return {
        title: `${values.text} twice`,
        what: `${values.name} and ${values.other} both have it.`,
        why: 'Whichever looks for duplicates later stays without (RFC 4862).',
      }
    return {
      title: `${values.name}: an IPv6 address that nobody uses`,
      what:
        values.kind === 'off'
          ? `${values.network} has no IPv6.`
          : `${values.name} is reserved by DHCP, and makes its own IPv6 address.`,
      why: 'Rules and names that count on it are void. Type the device, or take the address out.',
    }
  },
} satisfies Partial<FindingWords>

export const ADDRESS_MENDS = {
  'use-gateway': (values) => `Use ${values.ip}`,
  'use-pool': (values) => `Pool ${values.from} to ${values.to.split('.').slice(-2).join('.')}`,
  'use-mask': (values) => `Use the network's /${values.length}`,
  'use-lease': (values) => `Lease ${leaseText(values.leaseS)}`,
  'move-six': (values) => `Use ${values.ip}`,
  reserve: (values) => `Reserve ${values.ip}`,
} satisfies Partial<MendWords>
