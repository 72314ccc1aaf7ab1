import { count } from '../count'
import type { FindingValues } from '#core/findings'
import type { FindingWords, MendWords } from './words'

// What the findings of uplinks say, and the buttons of their mends.

const insiders = ({ names, everybody }: FindingValues['W13']): string =>
  [...names, ...(everybody ? ['everybody inside'] : [])].join(', ')

/** What no longer arrives: `1 port forward and 2 who dial in do not arrive`. */
function lostWords({ count, dialIns }: FindingValues['W05']): string {
  const parts = [
    ...(count > 0 ? [`${count} port forward${count === 1 ? '' : 's'}`] : []),
    ...(dialIns > 0 ? [`${dialIns} who dial${dialIns === 1 ? 's' : ''} in`] : []),
  ]
  return `${parts.join(' and ')} ${count + dialIns === 1 ? 'does' : 'do'} not arrive`
}

export const UPLINKS_WORDS = {
  W02: (values) => {
    if (values.kind === 'none')
      return {
        title: `${values.uplink} is not probed`,
        what: 'The gateway sees its own cable, not what lies beyond.',
        why: 'When the provider fails behind the modem, nothing changes over.',
      }
    if (values.kind === 'near')
      return {
        title: `${values.uplink}: a probe that proves little`,
        what: `${values.target} is on this side of the provider.`,
        why: 'It answers while the internet is gone.',
      }
    return {
      title: `${values.uplink}: one target alone`,
      what: `Only ${values.target} is asked.`,
      why: 'When that host rests, the uplink is given up. Ask two, and want both silent.',
    }
  },
  W03: (values) => ({
    title:
      values.kind === 'late'
        ? `${values.uplink}: change-over later than asked`
        : `${values.uplink}: more false alarms than asked`,
    what:
      values.kind === 'late'
        ? `Up to ${values.worst} s; at most ${values.mostOutage} s were wished for.`
        : `${values.alarms} a year; at most ${values.mostAlarms} were wished for.`,
    why: values.possible
      ? 'Other probe settings keep both wishes.'
      : 'No usual setting keeps both wishes: loosen one, or lose fewer packets.',
  }),
  W04: (values) => ({
    title: `${values.uplink} and ${values.other} fail together`,
    what: `Both lean on: ${values.shared}.`,
    why: 'The spare is gone when it is needed.',
  }),
  W05: (values) => ({
    title: `What comes in from outside dies with ${values.uplink}`,
    what: `${lostWords(values)} over ${values.other}.`,
    why: values.shared
      ? 'Its address is shared: nobody can dial in. A tunnel that this site dials would carry it.'
      : 'Forward there too, and let the name follow.',
  }),
  W06: (values) => ({
    title: `${values.uplink} is faster than its gateway inspects`,
    what: `${values.model} inspects ${values.inspection} Mb/s; the uplink brings ${values.down}.`,
    why: 'The rest is paid for and not had.',
  }),
  W08: (values) => ({
    title: `${values.uplink}: data gone in ${values.hours} h`,
    what: `${values.cap} GB at the site's usual use.`,
    why: 'Then it is slow, or dear, or off. Say who may use it meanwhile.',
  }),
  W09: (values) => ({
    title: `${values.uplink}: returns at once`,
    what: 'No hold-down.',
    why: 'An uplink that comes and goes takes every call with it each time.',
  }),
  W10: (values) => ({
    title: 'Nobody is told when an uplink fails',
    what: `The site goes on without ${values.uplink}, and nobody knows.`,
    why: 'The spare then fails one day unnoticed. Say who is told.',
  }),
  W13: (values) => ({
    title: `${values.port} from outside does not work from inside`,
    what: `${insiders(values)} may reach ${values.to}, and call its outside address in vain.`,
    why:
      'One name then works in one place alone. Hand such calls inside too, or let names ' +
      'inside lead to the inside address.',
  }),
  W14: (values) => ({
    title: `${values.uplink} takes ${values.share} % with ${values.speed} % of the speed`,
    what: 'The uplinks share what goes out by weight, and the weights do not follow the speeds.',
    why: 'The slow one fills up while the fast one rests.',
  }),
  W15: (values) => ({
    title: `${values.uplink}: weak signal`,
    what:
      [
        values.rsrp === '' ? '' : `${values.rsrp} dBm received`,
        values.sinr === '' ? '' : `${values.sinr} dB above noise and other cells`,
      ]
        .filter((t) => t !== '')
        .join(', ') + '.',
    why:
      'Slow, and gone in rain or at busy hours. ' +
      (values.antennas === '' || values.antennas < 2
        ? 'Two antennas outside, pointed at the mast, help most. '
        : 'Try another place or height for the antennas, or another provider. ') +
      'Work ' +
      'on roofs and masts is for people trained for heights; earth and protect what is ' +
      'outside by local codes.',
  }),
  W16: (values) => ({
    title: `${values.port} is handed to nobody for certain`,
    what:
      values.network === ''
        ? `${values.to} is in no network of this plan.`
        : `${values.to} in ${values.network} is no fixed address.`,
    why: 'Whoever takes it next is called from outside. Type or reserve it for the server that is meant.',
  }),
  W18: (values) => ({
    title: `${values.port} is handed to two`,
    what: `To ${values.other} first, then to ${values.to}.`,
    why: 'Of two forwards of one port the first has it. Give the second another port outside.',
  }),
  W19: (values) => ({
    title: `${values.port} is the port of ${values.tunnel}`,
    what: `Whoever dials the tunnel at ${values.listens} is handed inside.`,
    why: 'The tunnel hears none of them. Forward another port, or let the tunnel listen at another.',
  }),
  W21: (values) =>
    values.kind === 'no-cable'
      ? {
          title: `${values.uplink} has no cable`,
          what: 'Nothing is plugged into its port.',
          why: 'Lead it to the modem, or to whatever the provider hands over.',
        }
      : {
          title: `${values.uplink} does not get to the internet`,
          what:
            values.tag === null
              ? 'Its frames leave without a tag, and some port on the way drops them.'
              : `Its frames leave with tag ${values.tag}, and some port on the way drops them.`,
          why: 'Every port between the gateway and the provider has to carry the uplink, both ways.',
        },
  W20: (values) => {
    switch (values.kind) {
      case 'unheard':
        return {
          title: `The route to ${values.prefix} is not taken`,
          what: `${values.via} is on no subnet of ${values.gateway}, or is its own address.`,
          why: 'A router can hand packets only to a neighbour that it hears.',
        }
      case 'behind':
        return {
          title: `The route to ${values.prefix} comes after the uplinks`,
          what: `Uplinks of ${values.gateway} share, and whoever comes from inside goes by one of them.`,
          why: 'It is taken only while all of them are down. Give the uplinks different numbers to use it first.',
        }
      case 'inside':
        return {
          title: `The route to ${values.prefix} leads away from a subnet of ${values.gateway}`,
          what: `${values.gateway} stands on that subnet, and hands this part of it to ${values.via}.`,
          why: 'The longer prefix decides: who has an address of that part is not answered, and gets no lease.',
        }
      case 'second':
        return {
          title: `A second route to ${values.prefix}`,
          what:
            values.other === ''
              ? `${values.gateway} stands on that subnet itself.`
              : `The one by ${values.other} comes first.`,
          why: 'Of two routes to one prefix with one metric the first is taken. Give one of them a higher metric.',
        }
    }
  },
} satisfies Partial<FindingWords>

export const UPLINKS_MENDS = {
  'fit-probe': (values) =>
    `Probe every ${values.every} s, down after ${count(values.misses, 'miss', 'misses')}`,
  'weigh-by-speed': () => 'Share by speed',
  'hand-inside': () => 'Hand them inside too',
} satisfies Partial<MendWords>
