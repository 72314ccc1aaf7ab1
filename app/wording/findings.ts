import type { Finding, FindingCode, Mend, Severity } from '#core/findings'
import { FACTS } from './brief'

// What each finding says: what is wrong, and why it matters.
// Codes and values come from core; words live here alone.

type Values = Finding['values']
interface Words {
  readonly title: string
  readonly what: string
  readonly why: string
}

/** A lease as people say it. Worked: 28800 -> 8 h; 604800 -> 7 d; 1800 -> 30 min. */
export function leaseText(leaseS: number): string {
  if (leaseS % 86_400 === 0 && leaseS > 86_400) return `${leaseS / 86_400} d`
  return leaseS % 3600 === 0 ? `${leaseS / 3600} h` : `${Math.round(leaseS / 60)} min`
}

/** What is typed wrongly into a device, as a title. */
const MISTYPED: Readonly<Record<string, string>> = {
  'other-mask': "mask is not its network's",
  'own-as-gateway': 'is its own gateway',
}
function mistypedWords(v: Values): string {
  if (v['kind'] === 'other-mask')
    return `${v['text']} was typed into the device; the network is ${v['subnet']}.`
  if (v['kind'] === 'own-as-gateway') return `${v['text']} is typed as address and as gateway.`
  const place = v['kind'] === 'mask-as-gateway' ? 'address of the gateway' : 'address'
  return `${v['text']} is a mask; it stands where an ${place} belongs.`
}
/** What is wrong with a box of the equipment list, as a title. */
const BOX_TROUBLE: Readonly<Record<string, string>> = {
  'mac-twice': 'MAC used twice',
  'device-twice': 'two boxes for one device',
  'other-model': 'another model than planned',
  twice: 'serial used twice',
  'other-kind': 'serial of another kind',
}
const ALGORITHM_TROUBLE: Readonly<Record<string, string>> = {
  'must-not': 'Forbidden by RFC 8221 and 8247: broken.',
  'should-not': 'RFC 8221 and 8247 advise against it: too weak to begin with today.',
}
function unmetTitle(v: Values): string {
  if (v['under'] === '') return 'An intent is not met'
  return v['at'] === 'yes' ? `An intent fails on ${v['under']}` : `An intent fails with ${v['under']} down`
}

const WORDS: Readonly<Record<FindingCode, (v: Values) => Words>> = {
  A01: (v) => ({
    title: `${v['network']}: gateway outside its subnet`,
    what: `${v['gateway']} is not in ${v['subnet']}.`,
    why: 'Its hosts would have an address and no way out.',
  }),
  A02: (v) => ({
    title: `${v['network']}: gateway is not a host address`,
    what: `${v['gateway']} is the network or broadcast address of ${v['subnet']}.`,
    why: 'No device may own it.',
  }),
  A03: (v) => ({
    title: `${v['network']}: pool holds a fixed address`,
    what: `${v['ip']} (${v['name']}) lies in the DHCP pool.`,
    why: 'The server will lease it to somebody else, and both will fail in turn.',
  }),
  A04: (v) => ({
    title: `${v['network']}: pool leaves its subnet`,
    what: `${v['from']} to ${v['to']} is not all inside ${v['subnet']}.`,
    why: 'Clients would get addresses that cannot reach the gateway.',
  }),
  A05: (v) => ({
    title: `${v['network']} overlaps ${v['other']}`,
    what: `${v['subnet']} and ${v['otherSubnet']} share addresses.`,
    why: 'The gateway cannot tell which network such an address is in.',
  }),
  A06: (v) => ({
    title: `${v['network']} overlaps the ${v['line']} line`,
    what: `${v['subnet']} and ${v['address']}, which the gateway has on that line, share addresses.`,
    why: 'The gateway has the same network on both sides: nothing is routed.',
  }),
  A07: (v) => ({
    title: `${v['network']} overlaps ${v['far']}`,
    what:
      `${v['subnet']} and ${v['other']}, ` +
      `${v['kind'] === 'tunnel' ? 'inside the tunnel' : 'over there'}, share addresses.`,
    why: 'A tunnel cannot tell which side such an address is on. Renumber one of them.',
  }),
  A08: (v) => ({
    title: `${v['ip']} is given twice`,
    what: `To ${v['name']} and to ${v['other']}.`,
    why: 'Two devices with one address take turns at being unreachable.',
  }),
  A09: (v) => ({
    title: `${v['network']}: public addresses inside`,
    what: `${v['subnet']} is not private space (RFC 1918).`,
    why: 'Its real owners on the internet become unreachable from here.',
  }),
  A10: (v) => ({
    title: `${v['network']}: pool is short`,
    what: `${v['size']} addresses for ${v['expected']} clients expected at once.`,
    why: 'The last to come get no address.',
  }),
  A11: (v) => ({
    title: `${v['name']}: ${MISTYPED[String(v['kind'])] ?? 'a mask in the wrong field'}`,
    what: mistypedWords(v),
    why:
      v['kind'] === 'other-mask'
        ? 'It takes neighbours for strangers, or strangers for neighbours.'
        : 'It finds no way out.',
  }),
  A12: (v) => ({
    title: `${v['network']}: lease too long for the turnover`,
    what:
      `${v['arrivalsPerH']} an hour, ${v['stayH']} h each, lease ` +
      `${leaseText(Number(v['leaseS']))}: 1 in ${v['oneIn']} finds the ${v['size']} ` +
      'addresses taken.',
    why: `Shorten the lease, or a pool of ${v['needed']} brings it to 1 in 100.`,
  }),
  A13: (v) => ({
    title: `${v['network']}: VLAN ${v['vlan']} cannot be used`,
    what: v['other'] === '' ? 'A VLAN number is 1 to 4094.' : `${v['other']} has it already.`,
    why: 'Two networks on one VLAN are one broadcast domain.',
  }),
  A14: (v) => ({
    title: `${v['network']}: a subnet everybody uses`,
    what: `${v['subnet']} is the usual choice of home routers.`,
    why: 'People dialling in from such a network will not reach this one.',
  }),
  A15: (v) => ({
    title: `${v['network']} and ${v['other']} share an octet`,
    what: `Both are in third octet ${v['octet']}.`,
    why: 'Harmless; harder to read at night.',
  }),
  A16: (v) => ({
    title: `${v['device']}: address not reserved`,
    what: `Takes any lease in ${v['network']}.`,
    why: 'Nobody will find it after a power cut.',
  }),
  A17: (v) => ({
    title: `${v['network']} is outside the site's block`,
    what: `${v['subnet']} is not in ${v['supernet']}.`,
    why: 'Summaries, tunnels and rules for the site will miss it.',
  }),
  A18: (v) => ({
    title: `${v['network']}: one MAC reserved twice`,
    what: `${v['mac']} for ${v['name']} and for ${v['other']}.`,
    why: 'Most servers refuse the second; some hand out either.',
  }),
  A19: (v) => ({
    title: `${v['network']}: relay without a server`,
    what: v['server'] === '' ? 'No server is named.' : `${v['server']} is not a fixed address of this plan.`,
    why: 'Clients hear nothing and take 169.254 addresses.',
  }),
  A20: (v) => ({
    title: `${v['network']}: ${v['kind'] === 'none' ? 'IPv6 on without a prefix' : "IPv6 prefix outside the site's"}`,
    what:
      v['kind'] === 'none'
        ? 'Hosts are to form addresses, but no prefix is given.'
        : `${v['prefix']} is not in ${v['site']}.`,
    why:
      v['kind'] === 'none'
        ? 'They form link-local ones alone.'
        : 'Routes and rules for the site will miss it.',
  }),
  A21: (v) => ({
    title: `${v['network']} and ${v['other']} share IPv6 addresses`,
    what: `${v['prefix']} overlaps.`,
    why: 'The gateway cannot tell them apart.',
  }),
  A24: (v) => {
    if (v['kind'] === 'outside')
      return {
        title: `${v['name']}: IPv6 address outside ${v['network']}`,
        what: `${v['text']} is not in ${v['prefix']}.`,
        why: 'Its router is out of its reach, and answers never find it.',
      }
    if (v['kind'] === 'twice')
      return {
        title: `${v['text']} twice`,
        what: `${v['name']} and ${v['other']} both have it.`,
        why: 'Whichever looks for duplicates later stays without (RFC 4862).',
      }
    return {
      title: `${v['name']}: an IPv6 address that nobody uses`,
      what:
        v['kind'] === 'off'
          ? `${v['network']} has no IPv6.`
          : `${v['name']} is reserved by DHCP, and makes its own IPv6 address.`,
      why: 'Rules and names that count on it are void. Type the device, or take the address out.',
    }
  },
  A22: (v) => ({
    title: `${v['network']}: SLAAC needs a /64`,
    what: `${v['prefix']} leaves ${128 - Number(v['length'])} bits; hosts form 64 (RFC 4862, RFC 4291).`,
    why: 'They ignore the prefix and get no address.',
  }),
  A23: (v) => ({
    title: `${v['network']}: exclusion outside the pool`,
    what: `${v['from']} to ${v['to']} is not handed out anyway.`,
    why: 'Harmless; perhaps another range was meant.',
  }),
  D04: (v) => ({
    title: `${v['name']}: ${BOX_TROUBLE[String(v['kind'])] ?? 'serial cannot be right'}`,
    what:
      (
        {
          'wrong-check': `${v['serial']} does not check: a character is mistyped or two are swapped.`,
          malformed: `${v['serial']} is not a serial.`,
          'other-kind': `${v['serial']} is the ${v['of']}'s, from the same label.`,
          twice: `${v['serial']} is listed for two boxes.`,
          'mac-twice': `${v['mac']} is listed for two boxes.`,
          'device-twice': 'Another box is listed for the same device.',
          'other-model': `The box is a ${v['model']}, the plan says ${v['planned']}.`,
        } as Record<string, string>
      )[String(v['kind'])] ?? '',
    why:
      v['kind'] === 'other-model'
        ? 'Its ports and its power differ.'
        : 'It would never be found when it asks to be adopted.',
  }),
  D08: (v) => ({
    title: 'Country not set',
    what: `${v['radios']} radios will transmit.`,
    why: 'Channels and power depend on it; local rules decide.',
  }),
  F04: (v) => ({
    title: `${v['ssid']}: stations hear each other`,
    what: 'By the intents its people have the internet and nothing else, as guests have.',
    why:
      'One guest’s infected laptop then reaches the next one’s. Rules between networks do ' +
      'not meet what stays in the air.',
  }),
  E01: (v) => ({
    title: `VLAN ${v['vlan']} has no network`,
    what: `${v['device']} port ${v['port']} carries it.`,
    why: 'Frames on it go nowhere, or somewhere nobody planned.',
  }),
  E02: (v) => ({
    title: `${v['network']} ${v['vlan']} stops short`,
    what: `${v['device']} port ${v['port']} does not carry it.`,
    why: `Without it: ${v['affected']}.`,
  }),
  E03: (v) => ({
    title: 'Native VLANs differ across a cable',
    what: `${v['device']} ${v['port']}: ${v['native']}; ${v['otherDevice']} ${v['otherPort']}: ${v['otherNative']}.`,
    why: 'Untagged frames change network on the way.',
  }),
  E04: (v) => ({
    title: 'Unmanaged switch passes tags as they are',
    what: `${v['switch']}, behind ${v['device']} port ${v['port']}.`,
    why: `Its own sockets land in ${v['lands']}.`,
  }),
  E05: (v) => ({
    title: 'A loop that nothing breaks',
    what: `${v['devices']} are joined in a ring, and none of them speaks spanning tree.`,
    why: 'One broadcast circles for ever and the network stands still.',
  }),
  E06: (v) => {
    if (v['kind'] === 'no-common')
      return {
        title: 'No common speed',
        what: `${v['from']} and ${v['to']} offer none alike.`,
        why: 'The link stays down.',
      }
    if (v['kind'] === 'line')
      return {
        title: `${v['device']} port ${v['port']} is slower than the line`,
        what: `${v['mbps']} Mb/s in front of ${v['line']}, ${v['lineMbps']} Mb/s.`,
        why: 'The difference is paid for and never seen.',
      }
    return {
      title: 'Cable slower than both ends',
      what:
        `${v['from']} to ${v['to']}: ${v['category']}, ${v['lengthM']} m carries ` +
        `${v['mbps'] === 0 ? 'none of their speeds' : `${v['mbps']} Mb/s`}; the ports offer ` +
        `${v['offeredMbps']}.`,
      why: 'Take Cat6A or fibre, or accept the speed.',
    }
  },
  E07: (v) => ({
    title: v['between'] === 1 ? 'Copper between buildings' : 'Copper too long',
    what: `${v['from']} to ${v['to']}: ${v['lengthM']} m.`,
    why:
      v['between'] === 1
        ? 'Over 100 m where longer, and a path for lightning. Use fibre; a licensed electrician decides on bonding.'
        : 'A copper channel ends at 100 m. Use fibre.',
  }),
  E08: (v) => {
    switch (v['kind']) {
      case 'over':
        return {
          title: `${v['device']}: more power than it has`,
          what: `Loads draw ${v['drawW']} W of ${v['budgetW']} W.`,
          why: 'The ports that come last stay dark.',
        }
      case 'headroom':
        return {
          title: `${v['device']}: power without headroom`,
          what: `Loads draw ${v['drawW']} W of ${v['budgetW']} W; ${v['headroomPct']} % should stay free.`,
          why: 'Cold, heaters and start-up draw more than the typical figure.',
        }
      case 'class-sum':
        return {
          title: `${v['device']}: classes sum above its budget`,
          what: `${v['classW']} W reserved by class, ${v['budgetW']} W there; ${v['drawW']} W drawn.`,
          why: 'A switch that reserves by class refuses the last ports.',
        }
      case 'dark':
        return {
          title: `${v['device']} gets no power`,
          what: 'It takes power over its cable, and nothing on it gives any.',
          why: 'Use a port with PoE, an injector, or a supply of its own. Mains work is for licensed people.',
        }
      case 'class':
        return {
          title: `${v['load']} wants a higher class`,
          what: `Class ${v['loadClass']} on ${v['device']} port ${v['port']}, which gives class ${v['sourceClass']}.`,
          why: 'It stays off, or runs with features switched off.',
        }
      case 'passive-to-standard':
        return {
          title: `Passive power into ${v['load']}`,
          what: `${v['device']} port ${v['port']} puts out a voltage without asking.`,
          why: 'It may destroy the device.',
        }
      case 'standard-to-passive':
        return {
          title: `${v['load']} takes passive power`,
          what: `${v['device']} port ${v['port']} asks first and gets no answer.`,
          why: 'It stays dark. Use its own injector.',
        }
      case 'passive-volts':
        return {
          title: `${v['load']}: wrong voltage`,
          what: `${v['device']} port ${v['port']} gives another voltage than it takes.`,
          why: 'Too low it stays dark, too high it burns.',
        }
      case 'no-copper':
        return {
          title: `${v['load']}: no power through fibre`,
          what: `${v['device']} port ${v['port']} reaches it by fibre.`,
          why: 'Give it a supply of its own.',
        }
      default:
        return {
          title: `${v['load']}: too little voltage arrives`,
          what: `${v['volts']} V at the end of the run from ${v['device']} port ${v['port']}.`,
          why: 'It restarts under load. Shorten the run, or feed it nearer.',
        }
    }
  },
  E09: (v) =>
    v['kind'] === 'crossed'
      ? {
          title: `${v['device']}: cables crossed`,
          what: `${v['load']} hangs on its network side.`,
          why: 'The side marked for the device gives the power; the other gives none.',
        }
      : {
          title: `${v['device']} port ${v['port']} is ${v['kind'] === 'lan-as-wan' ? 'a LAN port' : 'the WAN port'}`,
          what: v['kind'] === 'lan-as-wan' ? 'A line is planned on it.' : 'The site is planned on it.',
          why: 'Its role must be changed before the cable goes in.',
        },
  E10: (v) => {
    const at = `${v['device']} port ${v['port']}`
    switch (v['kind']) {
      case 'copper-in-sfp':
        return {
          title: `${at} takes a transceiver`,
          what: 'A copper cable is planned on it.',
          why: 'The plug does not go in.',
        }
      case 'fibre-in-copper':
        return {
          title: `${at} takes copper`,
          what: 'A fibre is planned on it.',
          why: 'The plug does not go in.',
        }
      case 'no-optic':
        return {
          title: `${at}: transceiver missing`,
          what: `The fibre is ${v['grade']}, ${v['lengthM']} m.`,
          why: 'Without one there is no link.',
        }
      case 'optics-differ':
        return {
          title: 'Transceivers differ at the ends',
          what: `${v['optic']} and ${v['otherOptic']}.`,
          why: 'They do not see each other. Never look into a fibre or a transceiver: the light is invisible.',
        }
      default:
        return {
          title: `${at}: transceiver and fibre do not fit`,
          what: `${v['optic']} over ${v['lengthM']} m of ${v['grade']}.`,
          why: 'Too little light arrives. Never look into a fibre or a transceiver: the light is invisible.',
        }
    }
  },
  E11: (v) => ({
    title: `${v['hosts']} land in ${v['landed']}`,
    what: `${v['device']} port ${v['port']} puts them there; they belong in ${v['wanted']}.`,
    why: 'They get addresses of the wrong network.',
  }),
  E12: (v) => ({
    title: `Bundle ${v['lag']} does not hold together`,
    what:
      (
        {
          alone: 'It has one cable.',
          'other-device': 'Its cables end at different devices.',
          modes: 'Its ports carry different VLANs.',
          speeds: 'Its cables run at different speeds.',
        } as Record<string, string>
      )[String(v['why'])] ?? '',
    why:
      v['why'] === 'alone'
        ? 'A bundle of one gains nothing.'
        : 'Members that differ are left out, or the bundle stays down.',
  }),
  E13: (v) => ({
    title: `${v['device']} port ${v['port']} carries more than is needed`,
    what: `VLAN ${v['vlans']}: nobody beyond it wants it.`,
    why: 'Its broadcasts travel there all the same, and a wrong plug lands in it.',
  }),
  W01: (v) => ({
    title: `${v['about']}: ${FACTS[String(v['fact'])]?.name ?? v['fact']} not known`,
    what: FACTS[String(v['fact'])]?.ask ?? '',
    why: `Blocks ${v['blocks']}.`,
  }),
  V01: (v) => ({
    title: `${v['peer']}: a key that is in use`,
    what: `${v['other']} has the same public key.`,
    why: 'Two with one key throw each other out. One key, one peer.',
  }),
  V02: (v) => ({
    title: `${v['peer']} and ${v['other']} claim the same addresses`,
    what: 'Their allowed addresses overlap.',
    why: 'What is for the one goes to the other: the longer prefix has it, and of two alike the later.',
  }),
  V03: (v) => ({
    title: `${v['tunnel']}: nobody can dial in`,
    what: `${v['peers']} must dial this gateway, and every line shares its address.`,
    why: 'Let this gateway dial them, or meet at a third site that can be dialled.',
  }),
  V04: (v) => ({
    title: `${v['peer']} overlaps ${v['network']}`,
    what: `${v['subnet']} here and its allowed addresses there share some.`,
    why:
      'Hosts take the far ones for neighbours and never ask the gateway. Renumber one side; ' +
      'translating one to one is for where neither can move.',
  }),
  V05: (v) => ({
    title: `${v['peer']}: the tunnel leads nowhere`,
    what: `No rule lets anything between ${v['tunnel']} and the networks.`,
    why: 'It will come up, and nothing will pass.',
  }),
  V06: (v) => ({
    title: `${v['tunnel']}: public addresses inside the tunnel`,
    what: `${v['address']} is not private space (RFC 1918).`,
    why: 'Their real owners on the internet become unreachable from here.',
  }),
  V07: (v) => ({
    title: `${v['tunnel']}: the modem in front keeps the calls`,
    what: `${v['line']}'s modem routes and hands nothing on.`,
    why: `UDP ${v['port']} must be forwarded there, or the modem put in bridge mode.`,
  }),
  V08: (v) => ({
    title: `${v['tunnel']}: dialled by an address that changes`,
    what: `${v['line']} gets a new address now and then; ${v['peers']} would not find it again.`,
    why: 'Give it a name that dynamic DNS keeps up to date.',
  }),
  V09: (v) => ({
    title: `${v['tunnel']}: packets too large`,
    what:
      `MTU ${v['mtu']}; the lines carry ${v['path']}, less ${v['adds']} for the ` +
      `tunnel${v['six'] ? ' by IPv6' : ''}.`,
    why: 'Large packets are cut up or lost: pages that load by half.',
  }),
  V10: (v) => ({
    title: `${v['peer']}: ${v['out']} Mb/s there, ${v['back']} Mb/s back`,
    what: `The narrower line of the two ends decides: ${v['outBy']} on the way there, ${v['backBy']} on the way back.`,
    why: 'One end’s upload is the other’s download. Copies and calls get no more than this.',
  }),
  V20: (v) => ({
    title: `${v['peer']}: nobody ${v['who']} can begin`,
    what:
      v['every'] === 0
        ? 'No keepalive, and one end sits behind a translation.'
        : `A keepalive of ${v['every']} s; a translation need remember no longer than 120 s (RFC 4787).`,
    why:
      `After a silence the translation has forgotten the way, and packets from ${v['who']} ` +
      'are lost until the other end sends.',
  }),
  V17: (v) => ({
    title: `${v['tunnel']}: up to ${v['most']} s lost when its address changes`,
    what:
      `${v['name']} is looked after every ${v['every']} s and remembered for ${v['ttl']} s; ` +
      `until then ${v['peers']} dial the old address.`,
    why:
      'WireGuard asks for a name once, when it starts: see that the far ends ask again when ' +
      'nobody answers (common practice).',
  }),
  V18: (v) => {
    const title = `${v['tunnel']}: ${v['inside']} is known as ${v['outside']}`
    switch (v['kind']) {
      case 'lengths':
        return {
          title,
          what: 'The two are not of one length.',
          why: 'One to one means address for address: give both the same length.',
        }
      case 'taken':
        return {
          title,
          what: `${v['other']} has those addresses already.`,
          why: 'Nobody could be told apart by them. Take a prefix that is free at both ends.',
        }
      case 'unheard':
        return {
          title,
          what: `${v['peers']} sends nothing there: its own allowed addresses do not name ${v['outside']}.`,
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
  V19: (v) => ({
    title: `${v['peer']} has two keys until ${v['until']}`,
    what: 'The old one and the next one are both let in; addresses follow the one that was heard last.',
    why: 'Give it its new file, see that it calls with it, then finish: an old key that stays is a door that stays.',
  }),
  W14: (v) => ({
    title: `${v['line']} takes ${v['share']} % with ${v['speed']} % of the speed`,
    what: 'The lines share what goes out by weight, and the weights do not follow the speeds.',
    why: 'The slow one fills up while the fast one rests.',
  }),
  W15: (v) => ({
    title: `${v['line']}: weak signal`,
    what:
      [
        v['rsrp'] === '' ? '' : `${v['rsrp']} dBm received`,
        v['sinr'] === '' ? '' : `${v['sinr']} dB above noise and other cells`,
      ]
        .filter((t) => t !== '')
        .join(', ') + '.',
    why:
      'Slow, and gone in rain or at busy hours. ' +
      (v['antennas'] === '' || Number(v['antennas']) < 2
        ? 'Two antennas outside, pointed at the mast, help most. '
        : 'Try another place or height for the antennas, or another provider. ') +
      'Work ' +
      'on roofs and masts is for people trained for heights; earth and protect what is ' +
      'outside by local codes.',
  }),
  W10: (v) => ({
    title: 'Nobody is told when a line fails',
    what: `The site goes on without ${v['line']}, and nobody knows.`,
    why: 'The spare then fails one day unnoticed. Say who is told.',
  }),
  W02: (v) => {
    if (v['kind'] === 'none')
      return {
        title: `${v['line']} is not probed`,
        what: 'The gateway sees its own cable, not what lies beyond.',
        why: 'When the provider fails behind the modem, nothing changes over.',
      }
    if (v['kind'] === 'near')
      return {
        title: `${v['line']}: a probe that proves little`,
        what: `${v['target']} is on this side of the provider.`,
        why: 'It answers while the internet is gone.',
      }
    return {
      title: `${v['line']}: one target alone`,
      what: `Only ${v['target']} is asked.`,
      why: 'When that host rests, the line is given up. Ask two, and want both silent.',
    }
  },
  W03: (v) => ({
    title:
      v['kind'] === 'late'
        ? `${v['line']}: change-over later than asked`
        : `${v['line']}: more false alarms than asked`,
    what:
      v['kind'] === 'late'
        ? `Up to ${v['worst']} s; at most ${v['mostOutage']} s were wished for.`
        : `${v['alarms']} a year; at most ${v['mostAlarms']} were wished for.`,
    why:
      v['possible'] === 'yes'
        ? 'Other probe settings keep both wishes.'
        : 'No usual setting keeps both wishes: loosen one, or lose fewer packets.',
  }),
  W04: (v) => ({
    title: `${v['line']} and ${v['other']} fail together`,
    what: `Both lean on: ${v['shared']}.`,
    why: 'The spare is gone when it is needed.',
  }),
  W05: (v) => ({
    title:
      `${v['count']} port forward${v['count'] === 1 ? '' : 's'} ` +
      `die${v['count'] === 1 ? 's' : ''} with ${v['line']}`,
    what: `None arrives over ${v['other']}.`,
    why:
      v['shared'] === 'yes'
        ? 'Its address is shared: nobody can dial in. A tunnel that this site dials would carry it.'
        : 'Forward there too, and let the name follow.',
  }),
  W06: (v) => ({
    title: `${v['line']} is faster than its gateway inspects`,
    what: `${v['model']} inspects ${v['inspection']} Mb/s; the line brings ${v['down']}.`,
    why: 'The rest is paid for and not had.',
  }),
  W08: (v) => ({
    title: `${v['line']}: data gone in ${v['hours']} h`,
    what: `${v['cap']} GB at the site's usual use.`,
    why: 'Then it is slow, or dear, or off. Say who may use it meanwhile.',
  }),
  W09: (v) => ({
    title: `${v['line']}: returns at once`,
    what: 'No hold-down.',
    why: 'A line that comes and goes takes every call with it each time.',
  }),
  W17: (v) => ({
    title: `${v['line']}: no address of its own after all`,
    what: `${v['address']} was seen, of the provider’s shared space (RFC 6598).`,
    why: 'The plan counts on calls from outside over this line, and none will come.',
  }),
  W16: (v) => ({
    title: `${v['port']} is handed to nobody for certain`,
    what:
      v['network'] === ''
        ? `${v['to']} is in no network of this plan.`
        : `${v['to']} in ${v['network']} is no fixed address.`,
    why: 'Whoever takes it next is called from outside. Type or reserve it for the server that is meant.',
  }),
  W13: (v) => ({
    title: `${v['port']} from outside does not work from inside`,
    what: `${v['who']} may reach ${v['to']}, and call its outside address in vain.`,
    why:
      'One name then works in one place alone. Hand such calls inside too, or let names ' +
      'inside lead to the inside address.',
  }),
  W07: (v) => ({
    title: `${v['device']} port ${v['port']} is not ready for ${v['line']}`,
    what: v['kind'] === 'off' ? 'The plan switches it off.' : 'It is shipped switched off or unlicensed.',
    why: 'The line stays down until it is enabled. Find out now, not at the cut-over.',
  }),
  W11: (v) => ({
    title: `${v['line']}: two address translations in a row`,
    what:
      v['kind'] === 'router'
        ? `Its modem routes${v['address'] === '' ? '' : `: the gateway has ${v['address']}`}.`
        : `${v['address']} is the provider's shared space (RFC 6598).`,
    why:
      v['kind'] === 'router'
        ? 'Nothing from outside arrives unless both forward it. Ask for bridge mode.'
        : 'Nobody can dial in over this line.',
  }),
  V11: (v) => ({
    title: `${v['who']}: ${v['services']} goes by ${v['tunnel']}`,
    what:
      v['rest'] === 'yes'
        ? 'Their other services, and everybody else, go out by the lines.'
        : 'Everybody else goes out by the lines.',
    why: 'Say so to those who rely on it.',
  }),
  V12: (v) => ({
    title: `${v['who']}: names are looked up beside ${v['tunnel']}`,
    what: 'The gateway, or a server that is not in the tunnel, answers them.',
    why: 'The lines’ provider sees every name they visit. Give them a name server beyond the tunnel.',
  }),
  V15: (v) => ({
    title: `${v['name']}: the two ends do not fit`,
    what:
      (
        {
          'no-common':
            `No ${String(v['what']).replace('groups', 'key exchange group')} in common for ` +
            `${v['use'] === 'ike' ? 'the key exchange' : 'the data'}: ${v['ours'] || 'none'} ` +
            `here, ${v['theirs'] || 'none'} there.`,
          subnets: `Subnets: ${v['ours'] || 'none'} here, ${v['theirs'] || 'none'} there; each end needs its own.`,
          auth: `${v['ours']} here, ${v['theirs']} there.`,
          'nobody-starts': 'Both ends wait for the other.',
          'nowhere-to-call': 'Whoever starts does not know where the other is.',
          'same-identity': `Both call themselves ${v['ours']}.`,
        } as Record<string, string>
      )[String(v['kind'])] ?? '',
    why: 'The connection will not come up.',
  }),
  V16: (v) => ({
    title: `${v['name']}: ${v['kind'] === 'unknown' ? 'algorithms nobody here knows' : 'outdated algorithms'}`,
    what: `${v['names']}.`,
    why: ALGORITHM_TROUBLE[String(v['kind'])] ?? 'Check the name against IANA’s registry.',
  }),
  V14: (v) => ({
    title: `${v['who']}: IPv6 goes beside ${v['tunnel']}`,
    what: 'Policy routes choose for IPv4 alone.',
    why: 'The outside sees their own addresses. Refuse IPv6 outside for them, or switch it off there.',
  }),
  P01: (v) =>
    v['kind'] === 'excess'
      ? {
          title: `${v['from']} reach ${v['to']} unasked`,
          what: `${v['services']} passes${v['under'] === '' ? '' : ` on ${v['under']}`}.`,
          why: `No intent wants this${v['under'] === '' ? '' : ' then'}.`,
        }
      : {
          title: unmetTitle(v),
          what: `${v['intent']}.`,
          why: `Does not pass: ${v['services']}.`,
        },
  P02: (v) => ({
    title: `Rule ${v['number']} can never match`,
    what: `${v['note']}.`,
    why: `Rule ${v['by']} already decides all of it.`,
  }),
  P03: (v) => ({
    title: `Rule ${v['number']}: ${v['service']} never gets to it`,
    what: `Rule ${v['by']} decides it first, and otherwise.`,
    why: 'One of the two is not what was meant.',
  }),
  P04: (v) => ({
    title: `Rule ${v['number']} refuses one way only`,
    what: `${v['to']} may still call ${v['from']}: ${v['services']}.`,
    why: 'No intent wants that either. Refuse both ways.',
  }),
  P05: (v) => ({
    title: `${v['from']} reach what manages the site`,
    what: `${v['to']}: ${v['services']} passes.`,
    why: 'A guest needs one weak password to own the network.',
  }),
  P06: (v) => ({
    title: 'An intent that nothing can decide',
    what: `${v['intent']}: nobody is in ${v['who']}.`,
    why: 'It neither holds nor fails until somebody is.',
  }),
  P08: (v) => ({
    title: `${v['from']} reach ${v['to']} by IPv6`,
    what: `${v['services']} passes that way and no intent wants it.`,
    why: 'Rules for IPv4 addresses meet no IPv6 packet, and nothing hides behind a translation.',
  }),
  P09: (v) => ({
    title: `Rule ${v['number']} changes nothing`,
    what: `${v['note']}.`,
    why: `Without it, ${[
      v['by'] === '' ? '' : `rule ${v['by']}`,
      v['byDefault'] === 'yes' ? 'the default' : '',
    ]
      .filter((name) => name !== '')
      .join(' and ')} would decide the same.`,
  }),
  P10: (v) => ({
    title: `Rule ${v['number']} speaks of nobody`,
    what: `${v['note']}: no packet of this plan ${v['end'] === 'from' ? 'comes from' : 'goes to'} ${v['who']}.`,
    why: 'An address that is leased, or outside every network, route and tunnel, is in no rule’s reach.',
  }),
  P07: (v) => ({
    title: 'Names something that is not there',
    what: `${v['name']}: ${v['what']}.`,
    why: 'It does nothing as it stands.',
  }),
}

export const wordsOf = (finding: Finding): Words => WORDS[finding.code](finding.values)

export function mendWords(mend: Mend): string {
  const v = mend.values
  switch (mend.code) {
    case 'use-gateway':
      return `Use ${v['ip']}`
    case 'use-pool':
      return `Pool ${v['from']} to ${String(v['to']).split('.').slice(-2).join('.')}`
    case 'reserve':
      return `Reserve ${v['ip']}`
    case 'tag':
      return `Tag ${v['vlan']} on port ${v['port']}`
    case 'untag':
      return `Take ${v['vlan']} off port ${v['port']}`
    case 'fibre':
      return `Move to fibre ${v['grade']}`
    case 'access':
      return `Set port ${v['port']} to access ${v['vlan']}`
    case 'use-lease':
      return `Lease ${leaseText(Number(v['leaseS']))}`
    case 'keep-apart':
      return `Keep stations of ${v['ssid']} apart`
    case 'outside-shared':
      return `${v['line']} has no address of its own`
    case 'keep-alive':
      return `Keep it alive, every ${v['every']} s`
    case 'move-six':
      return `Use ${v['ip']}`
    case 'use-mask':
      return `Use the network's /${v['length']}`
    case 'own-supply':
      return 'It has a supply of its own'
    case 'optic':
      return `${v['optic']} in port ${v['port']}`
    case 'prune':
      return `Take ${v['vlans']} off port ${v['port']}`
    case 'port-enabled':
      return `Port ${v['port']} is enabled`
    case 'fit-probe':
      return `Every ${v['every']} s, ${v['misses']} misses`
    case 'hand-inside':
      return 'Hand them inside too'
    case 'lower-mtu':
      return `MTU ${v['mtu']}`
    case 'renumber':
      return `Move ${v['network']} to ${v['to']}`
    case 'map-apart':
      return `Keep both; ours is known there as ${v['ours']}, theirs here as ${v['theirs']}`
    case 'weigh-by-speed':
      return 'Share by speed'
    case 'refuse':
      return (
        `Refuse ${v['from']} to ` +
        `${v['to']}${v['services'] ? `, ${v['services']}` : ''}${v['six'] ? ' by IPv6' : ''}, first ` +
        'of all'
      )
    case 'permit':
      return `Add a rule for “${v['intent']}” as number ${v['number']}`
    case 'drop-service':
      return `Take ${v['service']} out of rule ${v['number']}`
    case 'drop-member':
      return `Take ${v['what']} out of ${v['group']}`
    case 'remove-intent':
      return `Remove “${v['intent']}”`
    case 'remove-pair':
      return `Remove default ${v['number']}`
    case 'remove-rule':
      return `Remove rule ${v['number']}`
    default:
      return 'Mend'
  }
}

export const SEVERITY: Readonly<Record<Severity, { one: string; many: string }>> = {
  blocker: { one: 'blocker', many: 'blockers' },
  warning: { one: 'warning', many: 'warnings' },
  note: { one: 'note', many: 'notes' },
}

export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`

/** `1 blocker, 4 warnings`; notes are left out unless there is nothing else. */
export function tally(findings: readonly Finding[]): string {
  const parts = (['blocker', 'warning', 'note'] as const).flatMap((severity) => {
    const n = findings.filter((f) => f.severity === severity).length
    return n === 0 ? [] : [{ severity, text: count(n, SEVERITY[severity].one, SEVERITY[severity].many) }]
  })
  const loud = parts.filter((p) => p.severity !== 'note')
  return (loud.length > 0 ? loud : parts).map((p) => p.text).join(', ') || 'nothing to mend'
}
