import type { FindingValues } from '#core/findings'
import { stopWords } from '../stops'
import type { FindingWords, MendWords } from './words'

// What the findings of tunnels and IPsec connections say, and the buttons of their mends.

const ALGORITHM_TROUBLE: Readonly<Record<FindingValues['V16']['kind'], string>> = {
  'must-not': 'Forbidden by RFC 8221 and 8247: broken.',
  'should-not': 'RFC 8221 and 8247 advise against it: too weak to begin with today.',
  unknown: 'Check the name against IANA’s registry.',
}

function disagreementWords({ kind, what, use, ours, theirs }: FindingValues['V15']): string {
  const [here, there] = [ours || 'none', theirs || 'none']
  switch (kind) {
    case 'no-common': {
      const part = what === 'groups' ? 'key exchange group' : what
      const purpose = use === 'ike' ? 'the key exchange' : 'the data'
      return `No ${part} in common for ${purpose}: ${here} here, ${there} there.`
    }
    case 'subnets':
      return `Subnets: ${here} here, ${there} there; each end needs its own.`
    case 'auth':
      return `${ours} here, ${theirs} there.`
    case 'nobody-starts':
      return 'Both ends wait for the other.'
    case 'nowhere-to-call':
      return 'Whoever starts does not know where the other is.'
    case 'same-identity':
      return `Both call themselves ${ours}.`
  }
}

const WHOSE_KEY = { its: '', old: '’s old one', next: '’s next one' } as const

export const TUNNELS_WORDS = {
  V01: (values) => ({
    title: `${values.peer}: a key that is in use`,
    what: `${values.other}${WHOSE_KEY[values.key]} has the same public key.`,
    why: 'Two with one key throw each other out. One key, one peer.',
  }),
  V02: (values) => ({
    title: `${values.peer} and ${values.other} claim the same addresses`,
    what: 'Their allowed addresses overlap.',
    why: 'What is for the one goes to the other: the longer prefix has it, and of two alike the later.',
  }),
  V03: (values) => ({
    title: `${values.tunnel}: nobody can dial in`,
    what: `${values.peers} must dial this gateway, and every uplink shares its address.`,
    why: 'Let this gateway dial them, or meet at a third site that can be dialled.',
  }),
  V04: (values) => ({
    title: `${values.peer} overlaps ${values.network}`,
    what: `${values.subnet} here and its allowed addresses there share some.`,
    why:
      'Hosts take the far ones for neighbours and never ask the gateway. Renumber one side; ' +
      'translating one to one is for where neither can move.',
  }),
  V05: (values) => ({
    title: `${values.peer}: the tunnel leads nowhere`,
    what:
      values.stops[0] === 'rule'
        ? `No rule lets anything between ${values.tunnel} and the networks.`
        : `Between ${values.tunnel} and the networks nothing passes: ${values.stops.map(stopWords).join('; ')}.`,
    why:
      values.stops[0] === 'rule'
        ? 'It will come up, and nothing will pass.'
        : 'Rules alone will not open it.',
  }),
  V06: (values) => ({
    title: `${values.tunnel}: public addresses inside the tunnel`,
    what: `${values.address} is not private space (RFC 1918).`,
    why: 'Their real owners on the internet become unreachable from here.',
  }),
  V07: (values) => ({
    title: values.known
      ? `${values.tunnel}: the modem in front keeps the calls`
      : `${values.tunnel}: does the modem in front forward UDP ${values.port}?`,
    what: values.known
      ? `${values.uplink}'s modem routes and hands nothing on.`
      : `${values.uplink}'s modem routes, and nobody has said what it hands on.`,
    why:
      `On the modem: keep ${values.to || 'the address that it gives to this gateway'} for this gateway, and ` +
      `forward UDP ${values.port} to it; or ask for bridge mode. Then say so in the Brief, under Modem forwards.`,
  }),
  V08: (values) => ({
    title: `${values.tunnel}: dialled by an address that changes`,
    what: `${values.uplink} gets a new address now and then; ${values.peers} would not find it again.`,
    why: 'Give it a name that dynamic DNS keeps up to date.',
  }),
  V09: (values) => ({
    title: `${values.tunnel}: packets too large`,
    what:
      `MTU ${values.mtu}; the uplinks carry ${values.path}, less ${values.adds} for the ` +
      `tunnel${values.ipv6 ? ' by IPv6' : ''}.`,
    why: 'Large packets are cut up or lost: pages that load by half.',
  }),
  V10: (values) => ({
    title: `${values.peer}: ${values.out} Mb/s there, ${values.back} Mb/s back`,
    what:
      `The narrower uplink of the two ends decides: ${values.outBy} on the way there, ` +
      `${values.backBy} on the way back.`,
    why: 'One end’s upload is the other’s download. Copies and calls get no more than this.',
  }),
  V11: (values) => ({
    title: `${values.who}: ${values.rest ? values.services : 'everything'} goes by ${values.tunnel}`,
    what: values.rest
      ? 'Their other services, and everybody else, go out by the uplinks.'
      : 'Everybody else goes out by the uplinks.',
    why: 'Say so to those who rely on it.',
  }),
  V12: (values) => ({
    title: `${values.who}: names are looked up beside ${values.tunnel}`,
    what: 'The gateway, or a server that is not in the tunnel, answers them.',
    why: 'The uplinks’ provider sees every name they visit. Give them a name server beyond the tunnel.',
  }),
  V14: (values) => ({
    title: `${values.who}: IPv6 goes beside ${values.tunnel}`,
    what: 'Policy routes choose for IPv4 alone.',
    why: 'The outside sees their own addresses. Refuse IPv6 outside for them, or switch it off there.',
  }),
  V15: (values) => ({
    title: `${values.name}: the two ends do not fit`,
    what: disagreementWords(values),
    why: 'The connection will not come up.',
  }),
  V16: (values) => ({
    title: `${values.name}: ${values.kind === 'unknown' ? 'algorithms nobody here knows' : 'outdated algorithms'}`,
    what: `${values.names}.`,
    why: ALGORITHM_TROUBLE[values.kind],
  }),
  V17: (values) => ({
    title: `${values.tunnel}: up to ${values.most} s lost when its address changes`,
    what:
      `${values.name} is updated every ${values.every} s and remembered for ${values.ttl} s; ` +
      `until then calls by ${values.peers} go to the old address.`,
    why:
      'WireGuard asks for a name once, when it starts: see that the far ends ask again when ' +
      'nobody answers (common practice).',
  }),
  V18: (values) => {
    const title = `${values.tunnel}: ${values.inside} is known as ${values.outside}`
    switch (values.kind) {
      case 'lengths':
        return {
          title,
          what: 'The two are not of one length.',
          why: 'One to one means address for address: give both the same length.',
        }
      case 'taken':
        return {
          title,
          what: `${values.other} has those addresses already.`,
          why: 'Nobody could be told apart by them. Take a prefix that is free at both ends.',
        }
      case 'unheard':
        return {
          title,
          what: `${values.peers} sends nothing there: its own allowed addresses do not name ${values.outside}.`,
          why: 'Add it at the far end, in place of the real one.',
        }
      default:
        return {
          title,
          what: 'Hosts there call ours by other addresses than they have, and see those in their logs.',
          why:
            'Names must answer with the other address over there; what writes addresses into its ' +
            'data (SIP, active FTP) breaks. Renumber when you can.',
        }
    }
  },
  V19: (values) => ({
    title: `${values.peer} has two keys until ${values.until}`,
    what: 'The old one and the next one are both let in; addresses follow the one that was heard last.',
    why: 'Give it its new file, see that it calls with it, then finish: an old key that stays is a door that stays.',
  }),
  V21: (values) => ({
    title: `${values.tunnel} lies in ${values.network}`,
    what: `${values.address} and ${values.subnet} have addresses in common.`,
    why: 'A gateway sends each of them one way only: into the tunnel, or onto the wire.',
  }),
  V22: (values) => ({
    title: `${values.peer}: its own address goes into its own tunnel`,
    what: 'Its allowed addresses hold the one at which it is dialled.',
    why: 'The packets of the tunnel then go into the tunnel, round and round, and none gets there.',
  }),
  V23: (values) => ({
    title: `${values.tunnel}: packets too small for IPv6`,
    what: `MTU ${values.mtu}; IPv6 asks for 1,280 bytes at least (RFC 8200 section 5).`,
    why: 'The interface then takes no IPv6 address, and IPv6 does not pass.',
  }),
  V24: (values) => ({
    title: `${values.tunnel} and ${values.other} listen at one port`,
    what: `UDP ${values.port} on one gateway.`,
    why: 'Only the first of the two comes up. Whoever dials the other has to be told its new port.',
  }),
  V26: (values) => ({
    title: `${values.who}: no other uplink while ${values.tunnel} is silent`,
    what: 'They are to take the next uplink while the tunnel is down.',
    why: 'A gateway does not see that a far end is silent: its interface stays up, and what goes there is lost.',
  }),
  V25: (values) => ({
    title: `${values.peer}: ${values.prefix} is reached another way`,
    what: `${values.other} leads there first.`,
    why: 'Of two ways to one prefix the first is taken: nothing goes to this peer, and what it sends is not answered.',
  }),
  V20: (values) => ({
    title: `${values.peer}: nobody ${values.who} can begin`,
    what:
      values.every === 0
        ? 'No keepalive, and one end sits behind a translation.'
        : `A keepalive of ${values.every} s; a translation need remember no longer than 120 s (RFC 4787).`,
    why:
      `After a silence the translation has forgotten the way, and packets from ${values.who} ` +
      'are lost until the other end sends.',
  }),
} satisfies Partial<FindingWords>

export const TUNNELS_MENDS = {
  renumber: (values) => `Move ${values.network} to ${values.to}`,
  'map-apart': (values) =>
    `Keep both; ours is known there as ${values.ours}, theirs here as ${values.theirs}`,
  'keep-alive': (values) => `Keep it alive, every ${values.every} s`,
  'raise-mtu': (values) => `MTU ${values.mtu}`,
  'refuse-else': () => 'Refuse instead',
  'listen-at': (values) => `Listen at ${values.port}`,
  'allow-translated': (values) => `${values.outside} in the far end’s file`,
  'lower-mtu': (values) => `MTU ${values.mtu}`,
} satisfies Partial<MendWords>
