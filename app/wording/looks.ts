import type { Fact, Look } from '#core/diagnose'
import { indexPlan } from '#core/queries'
import type { Plan } from '#core/schema'
import { linkSpeed } from '#core/cabling'
import { namesIn } from './names'

export type LookKind = Look['kind']
/** What can be looked at, as one chooses it. */
export const LOOKS: Readonly<Record<LookKind, string>> = {
  address: 'the address that a host has',
  link: 'the lights of a cable',
  mac: 'the switch port that a MAC is on',
  uplink: 'the gateway’s address on an uplink',
  handshake: 'the handshakes of a tunnel',
  flow: 'one flow',
}

/** What an answer is worth, of so many explanations and with so many left after it. */
export function worthWords(alike: number, left: number): string {
  const about = Math.round(left)
  const are = about === 1 ? 'is' : 'are'
  return `Of ${alike} explanations that fit as well, about ${about} ${are} left after the answer.`
}

/** What is looked at. */
export function lookWords(look: Look, plan: Plan): string {
  const names = namesIn(plan)
  switch (look.kind) {
    case 'address':
      return `The address of ${names.device(look.deviceId)}`
    case 'link':
      return `The lights of ${names.thing(look.linkId)}`
    case 'mac':
      return `Where ${names.device(look.on)} knows ${names.device(look.deviceId)}`
    case 'uplink':
      return `The gateway’s address on ${names.uplink(look.uplinkId)}`
    case 'handshake':
      return `Handshakes with ${names.peer(look.peerId)}`
    case 'flow':
      return look.text
  }
}

/** How to look. */
export function howToLook(look: Look): string {
  switch (look.kind) {
    case 'address':
      return 'On one of them: its own settings, or `ip address`.'
    case 'link':
      return 'Light or status page, at either end.'
    case 'mac':
      return 'In the switch’s table of MAC addresses.'
    case 'uplink':
      return 'On the gateway: its WAN address.'
    case 'handshake':
      return 'On the gateway: `wg show`, the latest handshake and what was received.'
    case 'flow':
      return 'Try it from there.'
  }
}

export interface Answer {
  readonly value: string
  readonly text: string
}
/** Speeds that lights tell of, Mb/s. */
const SPEEDS = [10, 100, 1000, 2500, 5000, 10_000]
/** What may be seen there. */
export function answersTo(look: Look, plan: Plan): Answer[] {
  switch (look.kind) {
    case 'address':
      return [
        { value: 'none', text: 'none, or 169.254…' },
        ...plan.networks.map((n) => ({ value: n.id, text: `one of ${n.name}` })),
        { value: 'foreign', text: 'of no network here' },
      ]
    case 'link': {
      const index = indexPlan(plan)
      const link = plan.links.find((l) => l.id === look.linkId)
      const planned = link ? linkSpeed(index, link).mbps : null
      return [
        { value: 'none', text: 'no light' },
        ...SPEEDS.map((speed) => ({
          value: String(speed),
          text: `${speed >= 1000 ? `${speed / 1000} Gb/s` : `${speed} Mb/s`}${speed === planned ? ', as planned' : ''}`,
        })),
      ]
    }
    case 'mac': {
      const device = plan.devices.find((d) => d.id === look.on)
      return [
        { value: 'nowhere', text: 'nowhere' },
        ...(device?.ports ?? []).map((p) => ({ value: p.id, text: `port ${p.name}` })),
      ]
    }
    case 'uplink':
      return [
        { value: 'none', text: 'none' },
        { value: 'planned', text: 'as planned' },
        { value: 'private', text: 'a private one, of a modem’s' },
        { value: 'ours', text: 'one of our own networks’' },
      ]
    case 'handshake':
      return [
        { value: 'silent', text: 'none, and nothing arrives' },
        { value: 'refused', text: 'none, although packets arrive' },
        { value: 'recent', text: 'recent' },
      ]
    case 'flow':
      return [
        { value: 'passes', text: 'passes' },
        { value: 'stopped', text: 'does not pass' },
      ]
  }
}

/** `The address of Staff desks: none, or 169.254…`. */
export const factWords = (fact: Fact, plan: Plan): string =>
  `${lookWords(fact, plan)}: ${answersTo(fact, plan).find((a) => a.value === fact.got)?.text ?? fact.got}`

/** What a flow that was tried lacks. */
export const BOTH_ADDRESSES = 'Name both addresses: 10.61.1.4 to 10.61.2.10 tcp 22.'
