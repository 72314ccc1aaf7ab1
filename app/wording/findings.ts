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
function mistypedWords(values: Values): string {
  if (values['kind'] === 'other-mask')
    return `${values['text']} was typed into the device; the network is ${values['subnet']}.`
  if (values['kind'] === 'own-as-gateway') return `${values['text']} is typed as address and as gateway.`
  const place = values['kind'] === 'mask-as-gateway' ? 'address of the gateway' : 'address'
  return `${values['text']} is a mask; it stands where an ${place} belongs.`
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
function unmetTitle(values: Values): string {
  if (values['under'] === '') return 'An intent is not met'
  return values['at'] === 'yes'
    ? `An intent fails on ${values['under']}`
    : `An intent fails with ${values['under']} down`
}

const WORDS: Readonly<Record<FindingCode, (v: Values) => Words>> = {
  A01: (values) => ({
    title: `${values['network']}: gateway outside its subnet`,
    what: `${values['gateway']} is not in ${values['subnet']}.`,
    why: 'Its hosts would have an address and no way out.',
  }),
  A02: (values) => ({
    title: `${values['network']}: gateway is not a host address`,
    what: `${values['gateway']} is the network or broadcast address of ${values['subnet']}.`,
    why: 'No device may own it.',
  }),
  A03: (values) => ({
    title: `${values['network']}: pool holds a fixed address`,
    what: `${values['ip']} (${values['name']}) lies in the DHCP pool.`,
    why: 'The server will lease it to somebody else, and both will fail in turn.',
  }),
  A04: (values) => ({
    title: `${values['network']}: pool leaves its subnet`,
    what: `${values['from']} to ${values['to']} is not all inside ${values['subnet']}.`,
    why: 'Clients would get addresses that cannot reach the gateway.',
  }),
  A05: (values) => ({
    title: `${values['network']} overlaps ${values['other']}`,
    what: `${values['subnet']} and ${values['otherSubnet']} share addresses.`,
    why: 'The gateway cannot tell which network such an address is in.',
  }),
  A06: (values) => ({
    title: `${values['network']} overlaps the ${values['line']} line`,
    what: `${values['subnet']} and ${values['address']}, which the gateway has on that line, share addresses.`,
    why: 'The gateway has the same network on both sides: nothing is routed.',
  }),
  A07: (values) => ({
    title: `${values['network']} overlaps ${values['far']}`,
    what:
      `${values['subnet']} and ${values['other']}, ` +
      `${values['kind'] === 'tunnel' ? 'inside the tunnel' : 'over there'}, share addresses.`,
    why: 'A tunnel cannot tell which side such an address is on. Renumber one of them.',
  }),
  A08: (values) => ({
    title: `${values['ip']} is given twice`,
    what: `To ${values['name']} and to ${values['other']}.`,
    why: 'Two devices with one address take turns at being unreachable.',
  }),
  A09: (values) => ({
    title: `${values['network']}: public addresses inside`,
    what: `${values['subnet']} is not private space (RFC 1918).`,
    why: 'Its real owners on the internet become unreachable from here.',
  }),
  A10: (values) => ({
    title: `${values['network']}: pool is short`,
    what: `${values['size']} addresses for ${values['expected']} clients expected at once.`,
    why: 'The last to come get no address.',
  }),
  A11: (values) => ({
    title: `${values['name']}: ${MISTYPED[String(values['kind'])] ?? 'a mask in the wrong field'}`,
    what: mistypedWords(values),
    why:
      values['kind'] === 'other-mask'
        ? 'It takes neighbours for strangers, or strangers for neighbours.'
        : 'It finds no way out.',
  }),
  A12: (values) => ({
    title: `${values['network']}: lease too long for the turnover`,
    what:
      `${values['arrivalsPerH']} an hour, ${values['stayH']} h each, lease ` +
      `${leaseText(Number(values['leaseS']))}: 1 in ${values['oneIn']} finds the ${values['size']} ` +
      'addresses taken.',
    why: `Shorten the lease, or a pool of ${values['needed']} brings it to 1 in 100.`,
  }),
  A13: (values) => ({
    title: `${values['network']}: VLAN ${values['vlan']} cannot be used`,
    what: values['other'] === '' ? 'A VLAN number is 1 to 4094.' : `${values['other']} has it already.`,
    why: 'Two networks on one VLAN are one broadcast domain.',
  }),
  A14: (values) => ({
    title: `${values['network']}: a subnet everybody uses`,
    what: `${values['subnet']} is the usual choice of home routers.`,
    why: 'People dialling in from such a network will not reach this one.',
  }),
  A15: (values) => ({
    title: `${values['network']} and ${values['other']} share an octet`,
    what: `Both are in third octet ${values['octet']}.`,
    why: 'Harmless; harder to read at night.',
  }),
  A16: (values) => ({
    title: `${values['device']}: address not reserved`,
    what: `Takes any lease in ${values['network']}.`,
    why: 'Nobody will find it after a power cut.',
  }),
  A17: (values) => ({
    title: `${values['network']} is outside the site's block`,
    what: `${values['subnet']} is not in ${values['supernet']}.`,
    why: 'Summaries, tunnels and rules for the site will miss it.',
  }),
  A18: (values) => ({
    title: `${values['network']}: one MAC reserved twice`,
    what: `${values['mac']} for ${values['name']} and for ${values['other']}.`,
    why: 'Most servers refuse the second; some hand out either.',
  }),
  A19: (values) => ({
    title: `${values['network']}: relay without a server`,
    what:
      values['server'] === ''
        ? 'No server is named.'
        : `${values['server']} is not a fixed address of this plan.`,
    why: 'Clients hear nothing and take 169.254 addresses.',
  }),
  A20: (values) => ({
    title: `${values['network']}: ${values['kind'] === 'none' ? 'IPv6 on without a prefix' : "IPv6 prefix outside the site's"}`,
    what:
      values['kind'] === 'none'
        ? 'Hosts are to form addresses, but no prefix is given.'
        : `${values['prefix']} is not in ${values['site']}.`,
    why:
      values['kind'] === 'none'
        ? 'They form link-local ones alone.'
        : 'Routes and rules for the site will miss it.',
  }),
  A21: (values) => ({
    title: `${values['network']} and ${values['other']} share IPv6 addresses`,
    what: `${values['prefix']} overlaps.`,
    why: 'The gateway cannot tell them apart.',
  }),
  A24: (values) => {
    if (values['kind'] === 'outside')
      return {
        title: `${values['name']}: IPv6 address outside ${values['network']}`,
        what: `${values['text']} is not in ${values['prefix']}.`,
        why: 'Its router is out of its reach, and answers never find it.',
      }
    if (values['kind'] === 'twice')
      return {
        title: `${values['text']} twice`,
        what: `${values['name']} and ${values['other']} both have it.`,
        why: 'Whichever looks for duplicates later stays without (RFC 4862).',
      }
    return {
      title: `${values['name']}: an IPv6 address that nobody uses`,
      what:
        values['kind'] === 'off'
          ? `${values['network']} has no IPv6.`
          : `${values['name']} is reserved by DHCP, and makes its own IPv6 address.`,
      why: 'Rules and names that count on it are void. Type the device, or take the address out.',
    }
  },
  A22: (values) => ({
    title: `${values['network']}: SLAAC needs a /64`,
    what: `${values['prefix']} leaves ${128 - Number(values['length'])} bits; hosts form 64 (RFC 4862, RFC 4291).`,
    why: 'They ignore the prefix and get no address.',
  }),
  A23: (values) => ({
    title: `${values['network']}: exclusion outside the pool`,
    what: `${values['from']} to ${values['to']} is not handed out anyway.`,
    why: 'Harmless; perhaps another range was meant.',
  }),
  D04: (values) => ({
    title: `${values['name']}: ${BOX_TROUBLE[String(values['kind'])] ?? 'serial cannot be right'}`,
    what:
      (
        {
          'wrong-check': `${values['serial']} does not check: a character is mistyped or two are swapped.`,
          malformed: `${values['serial']} is not a serial.`,
          'other-kind': `${values['serial']} is the ${values['of']}'s, from the same label.`,
          twice: `${values['serial']} is listed for two boxes.`,
          'mac-twice': `${values['mac']} is listed for two boxes.`,
          'device-twice': 'Another box is listed for the same device.',
          'other-model': `The box is a ${values['model']}, the plan says ${values['planned']}.`,
        } as Record<string, string>
      )[String(values['kind'])] ?? '',
    why:
      values['kind'] === 'other-model'
        ? 'Its ports and its power differ.'
        : 'It would never be found when it asks to be adopted.',
  }),
  D08: (values) => ({
    title: 'Country not set',
    what: `${values['radios']} radios will transmit.`,
    why: 'Channels and power depend on it; local rules decide.',
  }),
  F04: (values) => ({
    title: `${values['ssid']}: stations hear each other`,
    what: 'By the intents its people have the internet and nothing else, as guests have.',
    why:
      'One guest’s infected laptop then reaches the next one’s. Rules between networks do ' +
      'not meet what stays in the air.',
  }),
  E01: (values) => ({
    title: `VLAN ${values['vlan']} has no network`,
    what: `${values['device']} port ${values['port']} carries it.`,
    why: 'Frames on it go nowhere, or somewhere nobody planned.',
  }),
  E02: (values) => ({
    title: `${values['network']} ${values['vlan']} stops short`,
    what: `${values['device']} port ${values['port']} does not carry it.`,
    why: `Without it: ${values['affected']}.`,
  }),
  E03: (values) => ({
    title: 'Native VLANs differ across a cable',
    what: `${values['device']} ${values['port']}: ${values['native']}; ${values['otherDevice']} ${values['otherPort']}: ${values['otherNative']}.`,
    why: 'Untagged frames change network on the way.',
  }),
  E04: (values) => ({
    title: 'Unmanaged switch passes tags as they are',
    what: `${values['switch']}, behind ${values['device']} port ${values['port']}.`,
    why: `Its own sockets land in ${values['lands']}.`,
  }),
  E05: (values) => ({
    title: 'A loop that nothing breaks',
    what: `${values['devices']} are joined in a ring, and none of them speaks spanning tree.`,
    why: 'One broadcast circles for ever and the network stands still.',
  }),
  E06: (values) => {
    if (values['kind'] === 'no-common')
      return {
        title: 'No common speed',
        what: `${values['from']} and ${values['to']} offer none alike.`,
        why: 'The link stays down.',
      }
    if (values['kind'] === 'line')
      return {
        title: `${values['device']} port ${values['port']} is slower than the line`,
        what: `${values['mbps']} Mb/s in front of ${values['line']}, ${values['lineMbps']} Mb/s.`,
        why: 'The difference is paid for and never seen.',
      }
    return {
      title: 'Cable slower than both ends',
      what:
        `${values['from']} to ${values['to']}: ${values['category']}, ${values['lengthM']} m carries ` +
        `${values['mbps'] === 0 ? 'none of their speeds' : `${values['mbps']} Mb/s`}; the ports offer ` +
        `${values['offeredMbps']}.`,
      why: 'Take Cat6A or fibre, or accept the speed.',
    }
  },
  E07: (values) => ({
    title: values['between'] === 1 ? 'Copper between buildings' : 'Copper too long',
    what: `${values['from']} to ${values['to']}: ${values['lengthM']} m.`,
    why:
      values['between'] === 1
        ? 'Over 100 m where longer, and a path for lightning. Use fibre; a licensed electrician decides on bonding.'
        : 'A copper channel ends at 100 m. Use fibre.',
  }),
  E08: (values) => {
    switch (values['kind']) {
      case 'over':
        return {
          title: `${values['device']}: more power than it has`,
          what: `Loads draw ${values['drawW']} W of ${values['budgetW']} W.`,
          why: 'The ports that come last stay dark.',
        }
      case 'headroom':
        return {
          title: `${values['device']}: power without headroom`,
          what: `Loads draw ${values['drawW']} W of ${values['budgetW']} W; ${values['headroomPct']} % should stay free.`,
          why: 'Cold, heaters and start-up draw more than the typical figure.',
        }
      case 'class-sum':
        return {
          title: `${values['device']}: classes sum above its budget`,
          what: `${values['classW']} W reserved by class, ${values['budgetW']} W there; ${values['drawW']} W drawn.`,
          why: 'A switch that reserves by class refuses the last ports.',
        }
      case 'dark':
        return {
          title: `${values['device']} gets no power`,
          what: 'It takes power over its cable, and nothing on it gives any.',
          why: 'Use a port with PoE, an injector, or a supply of its own. Mains work is for licensed people.',
        }
      case 'class':
        return {
          title: `${values['load']} wants a higher class`,
          what: `Class ${values['loadClass']} on ${values['device']} port ${values['port']}, which gives class ${values['sourceClass']}.`,
          why: 'It stays off, or runs with features switched off.',
        }
      case 'passive-to-standard':
        return {
          title: `Passive power into ${values['load']}`,
          what: `${values['device']} port ${values['port']} puts out a voltage without asking.`,
          why: 'It may destroy the device.',
        }
      case 'standard-to-passive':
        return {
          title: `${values['load']} takes passive power`,
          what: `${values['device']} port ${values['port']} asks first and gets no answer.`,
          why: 'It stays dark. Use its own injector.',
        }
      case 'passive-volts':
        return {
          title: `${values['load']}: wrong voltage`,
          what: `${values['device']} port ${values['port']} gives another voltage than it takes.`,
          why: 'Too low it stays dark, too high it burns.',
        }
      case 'no-copper':
        return {
          title: `${values['load']}: no power through fibre`,
          what: `${values['device']} port ${values['port']} reaches it by fibre.`,
          why: 'Give it a supply of its own.',
        }
      default:
        return {
          title: `${values['load']}: too little voltage arrives`,
          what: `${values['volts']} V at the end of the run from ${values['device']} port ${values['port']}.`,
          why: 'It restarts under load. Shorten the run, or feed it nearer.',
        }
    }
  },
  E09: (values) =>
    values['kind'] === 'crossed'
      ? {
          title: `${values['device']}: cables crossed`,
          what: `${values['load']} hangs on its network side.`,
          why: 'The side marked for the device gives the power; the other gives none.',
        }
      : {
          title: `${values['device']} port ${values['port']} is ${values['kind'] === 'lan-as-wan' ? 'a LAN port' : 'the WAN port'}`,
          what: values['kind'] === 'lan-as-wan' ? 'A line is planned on it.' : 'The site is planned on it.',
          why: 'Its role must be changed before the cable goes in.',
        },
  E10: (values) => {
    const at = `${values['device']} port ${values['port']}`
    switch (values['kind']) {
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
          what: `The fibre is ${values['grade']}, ${values['lengthM']} m.`,
          why: 'Without one there is no link.',
        }
      case 'optics-differ':
        return {
          title: 'Transceivers differ at the ends',
          what: `${values['optic']} and ${values['otherOptic']}.`,
          why: 'They do not see each other. Never look into a fibre or a transceiver: the light is invisible.',
        }
      default:
        return {
          title: `${at}: transceiver and fibre do not fit`,
          what: `${values['optic']} over ${values['lengthM']} m of ${values['grade']}.`,
          why: 'Too little light arrives. Never look into a fibre or a transceiver: the light is invisible.',
        }
    }
  },
  E11: (values) => ({
    title: `${values['hosts']} land in ${values['landed']}`,
    what: `${values['device']} port ${values['port']} puts them there; they belong in ${values['wanted']}.`,
    why: 'They get addresses of the wrong network.',
  }),
  E12: (values) => ({
    title: `Bundle ${values['lag']} does not hold together`,
    what:
      (
        {
          alone: 'It has one cable.',
          'other-device': 'Its cables end at different devices.',
          modes: 'Its ports carry different VLANs.',
          speeds: 'Its cables run at different speeds.',
        } as Record<string, string>
      )[String(values['why'])] ?? '',
    why:
      values['why'] === 'alone'
        ? 'A bundle of one gains nothing.'
        : 'Members that differ are left out, or the bundle stays down.',
  }),
  E13: (values) => ({
    title: `${values['device']} port ${values['port']} carries more than is needed`,
    what: `VLAN ${values['vlans']}: nobody beyond it wants it.`,
    why: 'Its broadcasts travel there all the same, and a wrong plug lands in it.',
  }),
  W01: (values) => ({
    title: `${values['about']}: ${FACTS[String(values['fact'])]?.name ?? values['fact']} not known`,
    what: FACTS[String(values['fact'])]?.ask ?? '',
    why: `Blocks ${values['blocks']}.`,
  }),
  V01: (values) => ({
    title: `${values['peer']}: a key that is in use`,
    what: `${values['other']} has the same public key.`,
    why: 'Two with one key throw each other out. One key, one peer.',
  }),
  V02: (values) => ({
    title: `${values['peer']} and ${values['other']} claim the same addresses`,
    what: 'Their allowed addresses overlap.',
    why: 'What is for the one goes to the other: the longer prefix has it, and of two alike the later.',
  }),
  V03: (values) => ({
    title: `${values['tunnel']}: nobody can dial in`,
    what: `${values['peers']} must dial this gateway, and every line shares its address.`,
    why: 'Let this gateway dial them, or meet at a third site that can be dialled.',
  }),
  V04: (values) => ({
    title: `${values['peer']} overlaps ${values['network']}`,
    what: `${values['subnet']} here and its allowed addresses there share some.`,
    why:
      'Hosts take the far ones for neighbours and never ask the gateway. Renumber one side; ' +
      'translating one to one is for where neither can move.',
  }),
  V05: (values) => ({
    title: `${values['peer']}: the tunnel leads nowhere`,
    what: `No rule lets anything between ${values['tunnel']} and the networks.`,
    why: 'It will come up, and nothing will pass.',
  }),
  V06: (values) => ({
    title: `${values['tunnel']}: public addresses inside the tunnel`,
    what: `${values['address']} is not private space (RFC 1918).`,
    why: 'Their real owners on the internet become unreachable from here.',
  }),
  V07: (values) => ({
    title: `${values['tunnel']}: the modem in front keeps the calls`,
    what: `${values['line']}'s modem routes and hands nothing on.`,
    why: `UDP ${values['port']} must be forwarded there, or the modem put in bridge mode.`,
  }),
  V08: (values) => ({
    title: `${values['tunnel']}: dialled by an address that changes`,
    what: `${values['line']} gets a new address now and then; ${values['peers']} would not find it again.`,
    why: 'Give it a name that dynamic DNS keeps up to date.',
  }),
  V09: (values) => ({
    title: `${values['tunnel']}: packets too large`,
    what:
      `MTU ${values['mtu']}; the lines carry ${values['path']}, less ${values['adds']} for the ` +
      `tunnel${values['six'] ? ' by IPv6' : ''}.`,
    why: 'Large packets are cut up or lost: pages that load by half.',
  }),
  V10: (values) => ({
    title: `${values['peer']}: ${values['out']} Mb/s there, ${values['back']} Mb/s back`,
    what: `The narrower line of the two ends decides: ${values['outBy']} on the way there, ${values['backBy']} on the way back.`,
    why: 'One end’s upload is the other’s download. Copies and calls get no more than this.',
  }),
  V20: (values) => ({
    title: `${values['peer']}: nobody ${values['who']} can begin`,
    what:
      values['every'] === 0
        ? 'No keepalive, and one end sits behind a translation.'
        : `A keepalive of ${values['every']} s; a translation need remember no longer than 120 s (RFC 4787).`,
    why:
      `After a silence the translation has forgotten the way, and packets from ${values['who']} ` +
      'are lost until the other end sends.',
  }),
  V17: (values) => ({
    title: `${values['tunnel']}: up to ${values['most']} s lost when its address changes`,
    what:
      `${values['name']} is looked after every ${values['every']} s and remembered for ${values['ttl']} s; ` +
      `until then ${values['peers']} dial the old address.`,
    why:
      'WireGuard asks for a name once, when it starts: see that the far ends ask again when ' +
      'nobody answers (common practice).',
  }),
  V18: (values) => {
    const title = `${values['tunnel']}: ${values['inside']} is known as ${values['outside']}`
    switch (values['kind']) {
      case 'lengths':
        return {
          title,
          what: 'The two are not of one length.',
          why: 'One to one means address for address: give both the same length.',
        }
      case 'taken':
        return {
          title,
          what: `${values['other']} has those addresses already.`,
          why: 'Nobody could be told apart by them. Take a prefix that is free at both ends.',
        }
      case 'unheard':
        return {
          title,
          what: `${values['peers']} sends nothing there: its own allowed addresses do not name ${values['outside']}.`,
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
    title: `${values['peer']} has two keys until ${values['until']}`,
    what: 'The old one and the next one are both let in; addresses follow the one that was heard last.',
    why: 'Give it its new file, see that it calls with it, then finish: an old key that stays is a door that stays.',
  }),
  W14: (values) => ({
    title: `${values['line']} takes ${values['share']} % with ${values['speed']} % of the speed`,
    what: 'The lines share what goes out by weight, and the weights do not follow the speeds.',
    why: 'The slow one fills up while the fast one rests.',
  }),
  W15: (values) => ({
    title: `${values['line']}: weak signal`,
    what:
      [
        values['rsrp'] === '' ? '' : `${values['rsrp']} dBm received`,
        values['sinr'] === '' ? '' : `${values['sinr']} dB above noise and other cells`,
      ]
        .filter((t) => t !== '')
        .join(', ') + '.',
    why:
      'Slow, and gone in rain or at busy hours. ' +
      (values['antennas'] === '' || Number(values['antennas']) < 2
        ? 'Two antennas outside, pointed at the mast, help most. '
        : 'Try another place or height for the antennas, or another provider. ') +
      'Work ' +
      'on roofs and masts is for people trained for heights; earth and protect what is ' +
      'outside by local codes.',
  }),
  W10: (values) => ({
    title: 'Nobody is told when a line fails',
    what: `The site goes on without ${values['line']}, and nobody knows.`,
    why: 'The spare then fails one day unnoticed. Say who is told.',
  }),
  W02: (values) => {
    if (values['kind'] === 'none')
      return {
        title: `${values['line']} is not probed`,
        what: 'The gateway sees its own cable, not what lies beyond.',
        why: 'When the provider fails behind the modem, nothing changes over.',
      }
    if (values['kind'] === 'near')
      return {
        title: `${values['line']}: a probe that proves little`,
        what: `${values['target']} is on this side of the provider.`,
        why: 'It answers while the internet is gone.',
      }
    return {
      title: `${values['line']}: one target alone`,
      what: `Only ${values['target']} is asked.`,
      why: 'When that host rests, the line is given up. Ask two, and want both silent.',
    }
  },
  W03: (values) => ({
    title:
      values['kind'] === 'late'
        ? `${values['line']}: change-over later than asked`
        : `${values['line']}: more false alarms than asked`,
    what:
      values['kind'] === 'late'
        ? `Up to ${values['worst']} s; at most ${values['mostOutage']} s were wished for.`
        : `${values['alarms']} a year; at most ${values['mostAlarms']} were wished for.`,
    why:
      values['possible'] === 'yes'
        ? 'Other probe settings keep both wishes.'
        : 'No usual setting keeps both wishes: loosen one, or lose fewer packets.',
  }),
  W04: (values) => ({
    title: `${values['line']} and ${values['other']} fail together`,
    what: `Both lean on: ${values['shared']}.`,
    why: 'The spare is gone when it is needed.',
  }),
  W05: (values) => ({
    title:
      `${values['count']} port forward${values['count'] === 1 ? '' : 's'} ` +
      `die${values['count'] === 1 ? 's' : ''} with ${values['line']}`,
    what: `None arrives over ${values['other']}.`,
    why:
      values['shared'] === 'yes'
        ? 'Its address is shared: nobody can dial in. A tunnel that this site dials would carry it.'
        : 'Forward there too, and let the name follow.',
  }),
  W06: (values) => ({
    title: `${values['line']} is faster than its gateway inspects`,
    what: `${values['model']} inspects ${values['inspection']} Mb/s; the line brings ${values['down']}.`,
    why: 'The rest is paid for and not had.',
  }),
  W08: (values) => ({
    title: `${values['line']}: data gone in ${values['hours']} h`,
    what: `${values['cap']} GB at the site's usual use.`,
    why: 'Then it is slow, or dear, or off. Say who may use it meanwhile.',
  }),
  W09: (values) => ({
    title: `${values['line']}: returns at once`,
    what: 'No hold-down.',
    why: 'A line that comes and goes takes every call with it each time.',
  }),
  W17: (values) => ({
    title: `${values['line']}: no address of its own after all`,
    what: `${values['address']} was seen, of the provider’s shared space (RFC 6598).`,
    why: 'The plan counts on calls from outside over this line, and none will come.',
  }),
  W16: (values) => ({
    title: `${values['port']} is handed to nobody for certain`,
    what:
      values['network'] === ''
        ? `${values['to']} is in no network of this plan.`
        : `${values['to']} in ${values['network']} is no fixed address.`,
    why: 'Whoever takes it next is called from outside. Type or reserve it for the server that is meant.',
  }),
  W13: (values) => ({
    title: `${values['port']} from outside does not work from inside`,
    what: `${values['who']} may reach ${values['to']}, and call its outside address in vain.`,
    why:
      'One name then works in one place alone. Hand such calls inside too, or let names ' +
      'inside lead to the inside address.',
  }),
  W07: (values) => ({
    title: `${values['device']} port ${values['port']} is not ready for ${values['line']}`,
    what:
      values['kind'] === 'off' ? 'The plan switches it off.' : 'It is shipped switched off or unlicensed.',
    why: 'The line stays down until it is enabled. Find out now, not at the cut-over.',
  }),
  W11: (values) => ({
    title: `${values['line']}: two address translations in a row`,
    what:
      values['kind'] === 'router'
        ? `Its modem routes${values['address'] === '' ? '' : `: the gateway has ${values['address']}`}.`
        : `${values['address']} is the provider's shared space (RFC 6598).`,
    why:
      values['kind'] === 'router'
        ? 'Nothing from outside arrives unless both forward it. Ask for bridge mode.'
        : 'Nobody can dial in over this line.',
  }),
  V11: (values) => ({
    title: `${values['who']}: ${values['services']} goes by ${values['tunnel']}`,
    what:
      values['rest'] === 'yes'
        ? 'Their other services, and everybody else, go out by the lines.'
        : 'Everybody else goes out by the lines.',
    why: 'Say so to those who rely on it.',
  }),
  V12: (values) => ({
    title: `${values['who']}: names are looked up beside ${values['tunnel']}`,
    what: 'The gateway, or a server that is not in the tunnel, answers them.',
    why: 'The lines’ provider sees every name they visit. Give them a name server beyond the tunnel.',
  }),
  V15: (values) => ({
    title: `${values['name']}: the two ends do not fit`,
    what:
      (
        {
          'no-common':
            `No ${String(values['what']).replace('groups', 'key exchange group')} in common for ` +
            `${values['use'] === 'ike' ? 'the key exchange' : 'the data'}: ${values['ours'] || 'none'} ` +
            `here, ${values['theirs'] || 'none'} there.`,
          subnets: `Subnets: ${values['ours'] || 'none'} here, ${values['theirs'] || 'none'} there; each end needs its own.`,
          auth: `${values['ours']} here, ${values['theirs']} there.`,
          'nobody-starts': 'Both ends wait for the other.',
          'nowhere-to-call': 'Whoever starts does not know where the other is.',
          'same-identity': `Both call themselves ${values['ours']}.`,
        } as Record<string, string>
      )[String(values['kind'])] ?? '',
    why: 'The connection will not come up.',
  }),
  V16: (values) => ({
    title: `${values['name']}: ${values['kind'] === 'unknown' ? 'algorithms nobody here knows' : 'outdated algorithms'}`,
    what: `${values['names']}.`,
    why: ALGORITHM_TROUBLE[String(values['kind'])] ?? 'Check the name against IANA’s registry.',
  }),
  V14: (values) => ({
    title: `${values['who']}: IPv6 goes beside ${values['tunnel']}`,
    what: 'Policy routes choose for IPv4 alone.',
    why: 'The outside sees their own addresses. Refuse IPv6 outside for them, or switch it off there.',
  }),
  P01: (values) =>
    values['kind'] === 'excess'
      ? {
          title: `${values['from']} reach ${values['to']} unasked`,
          what: `${values['services']} passes${values['under'] === '' ? '' : ` on ${values['under']}`}.`,
          why: `No intent wants this${values['under'] === '' ? '' : ' then'}.`,
        }
      : {
          title: unmetTitle(values),
          what: `${values['intent']}.`,
          why: `Does not pass: ${values['services']}.`,
        },
  P02: (values) => ({
    title: `Rule ${values['number']} can never match`,
    what: `${values['note']}.`,
    why: `Rule ${values['by']} already decides all of it.`,
  }),
  P03: (values) => ({
    title: `Rule ${values['number']}: ${values['service']} never gets to it`,
    what: `Rule ${values['by']} decides it first, and otherwise.`,
    why: 'One of the two is not what was meant.',
  }),
  P04: (values) => ({
    title: `Rule ${values['number']} refuses one way only`,
    what: `${values['to']} may still call ${values['from']}: ${values['services']}.`,
    why: 'No intent wants that either. Refuse both ways.',
  }),
  P05: (values) => ({
    title: `${values['from']} reach what manages the site`,
    what: `${values['to']}: ${values['services']} passes.`,
    why: 'A guest needs one weak password to own the network.',
  }),
  P06: (values) => ({
    title: 'An intent that nothing can decide',
    what: `${values['intent']}: nobody is in ${values['who']}.`,
    why: 'It neither holds nor fails until somebody is.',
  }),
  P08: (values) => ({
    title: `${values['from']} reach ${values['to']} by IPv6`,
    what: `${values['services']} passes that way and no intent wants it.`,
    why: 'Rules for IPv4 addresses meet no IPv6 packet, and nothing hides behind a translation.',
  }),
  P09: (values) => ({
    title: `Rule ${values['number']} changes nothing`,
    what: `${values['note']}.`,
    why: `Without it, ${[
      values['by'] === '' ? '' : `rule ${values['by']}`,
      values['byDefault'] === 'yes' ? 'the default' : '',
    ]
      .filter((name) => name !== '')
      .join(' and ')} would decide the same.`,
  }),
  P10: (values) => ({
    title: `Rule ${values['number']} speaks of nobody`,
    what: `${values['note']}: no packet of this plan ${values['end'] === 'from' ? 'comes from' : 'goes to'} ${values['who']}.`,
    why: 'An address that is leased, or outside every network, route and tunnel, is in no rule’s reach.',
  }),
  P07: (values) => ({
    title: 'Names something that is not there',
    what: `${values['name']}: ${values['what']}.`,
    why: 'It does nothing as it stands.',
  }),
}

export const wordsOf = (finding: Finding): Words => WORDS[finding.code](finding.values)

export function mendWords(mend: Mend): string {
  const values = mend.values
  switch (mend.code) {
    case 'use-gateway':
      return `Use ${values['ip']}`
    case 'use-pool':
      return `Pool ${values['from']} to ${String(values['to']).split('.').slice(-2).join('.')}`
    case 'reserve':
      return `Reserve ${values['ip']}`
    case 'tag':
      return `Tag ${values['vlan']} on port ${values['port']}`
    case 'untag':
      return `Take ${values['vlan']} off port ${values['port']}`
    case 'fibre':
      return `Move to fibre ${values['grade']}`
    case 'access':
      return `Set port ${values['port']} to access ${values['vlan']}`
    case 'use-lease':
      return `Lease ${leaseText(Number(values['leaseS']))}`
    case 'keep-apart':
      return `Keep stations of ${values['ssid']} apart`
    case 'outside-shared':
      return `${values['line']} has no address of its own`
    case 'keep-alive':
      return `Keep it alive, every ${values['every']} s`
    case 'move-six':
      return `Use ${values['ip']}`
    case 'use-mask':
      return `Use the network's /${values['length']}`
    case 'own-supply':
      return 'It has a supply of its own'
    case 'optic':
      return `${values['optic']} in port ${values['port']}`
    case 'prune':
      return `Take ${values['vlans']} off port ${values['port']}`
    case 'port-enabled':
      return `Port ${values['port']} is enabled`
    case 'fit-probe':
      return `Every ${values['every']} s, ${values['misses']} misses`
    case 'hand-inside':
      return 'Hand them inside too'
    case 'lower-mtu':
      return `MTU ${values['mtu']}`
    case 'renumber':
      return `Move ${values['network']} to ${values['to']}`
    case 'map-apart':
      return `Keep both; ours is known there as ${values['ours']}, theirs here as ${values['theirs']}`
    case 'weigh-by-speed':
      return 'Share by speed'
    case 'refuse':
      return (
        `Refuse ${values['from']} to ` +
        `${values['to']}${values['services'] ? `, ${values['services']}` : ''}${values['six'] ? ' by IPv6' : ''}, first ` +
        'of all'
      )
    case 'permit':
      return `Add a rule for “${values['intent']}” as number ${values['number']}`
    case 'drop-service':
      return `Take ${values['service']} out of rule ${values['number']}`
    case 'drop-member':
      return `Take ${values['what']} out of ${values['group']}`
    case 'remove-intent':
      return `Remove “${values['intent']}”`
    case 'remove-pair':
      return `Remove default ${values['number']}`
    case 'remove-rule':
      return `Remove rule ${values['number']}`
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
    const total = findings.filter((f) => f.severity === severity).length
    return total === 0
      ? []
      : [{ severity, text: count(total, SEVERITY[severity].one, SEVERITY[severity].many) }]
  })
  const loud = parts.filter((p) => p.severity !== 'note')
  return (loud.length > 0 ? loud : parts).map((p) => p.text).join(', ') || 'nothing to mend'
}
