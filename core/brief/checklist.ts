// Question: what is written down and photographed before the old lines are unplugged?
// Method: a list made from the lines that are in use, each item with what is known already.
// Source: common practice, without a published source.
import type { Plan, Uplink } from '#core/schema'
import { cellularText, contractText, KIND, linkSpeedText, macLockText, tagText } from './words'

export type CheckCode =
  | 'other-way'
  | 'photograph'
  | 'kind'
  | 'credentials'
  | 'address'
  | 'tag'
  | 'mac-lock'
  | 'link-speed'
  | 'speed-now'
  | 'modem'
  | 'cellular'
  | 'labels'
  | 'backup'
  | 'tell'

export interface CheckItem {
  /** Stays the same while the line stays: ticks are kept by it. */
  readonly id: string
  readonly code: CheckCode
  /** The line's name; empty for the whole site. */
  readonly about: string
  /** What the plan knows of it already; empty where nothing is. */
  readonly known: string
}

function itemsOf(uplink: Uplink): CheckItem[] {
  const { facts } = uplink
  const item = (code: CheckCode, known: string): CheckItem => ({
    id: `${uplink.id}.${code}`,
    code,
    about: uplink.name,
    known,
  })
  return [
    item('kind', KIND[uplink.kind]),
    ...(uplink.kind === 'pppoe' ? [item('credentials', facts.credentialsAt ?? '')] : []),
    ...(uplink.kind === 'static'
      ? [
          item(
            'address',
            [facts.address ?? '', facts.gateway ?? '', ...facts.dns].filter((t) => t !== '').join(', '),
          ),
        ]
      : []),
    item('tag', tagText(uplink)),
    item('mac-lock', macLockText(facts)),
    item('link-speed', linkSpeedText(facts)),
    item('speed-now', contractText(uplink)),
    item('modem', facts.modem === null ? '' : facts.modem),
    ...(facts.cellular ? [item('cellular', cellularText(facts.cellular))] : []),
  ]
}

/** The checklist, in the order of the work: a way out first, then line by line, then what is left behind. */
export function beforeUnplug(plan: Plan): CheckItem[] {
  const whole = (code: CheckCode, known: string): CheckItem => ({
    id: `site.${code}`,
    code,
    about: '',
    known,
  })
  return [
    whole('other-way', plan.brief.otherWay),
    whole('photograph', ''),
    ...plan.uplinks.flatMap(itemsOf),
    whole('labels', ''),
    whole('backup', ''),
    whole('tell', ''),
  ]
}
