import { POE_CLASSES } from '#core/power'
import type { Factory, Model } from '#core/schema'

/** Where a device is when it comes from the factory. */
export const FACTORY_WORDS: Readonly<Record<Factory['kind'], string>> = {
  'dhcp-client': 'takes a lease',
  'dhcp-server': 'serves leases',
  fixed: 'fixed address',
  channel: 'address by a channel knob',
}

const speedWords = (mbps: number): string => (mbps >= 1000 ? `${mbps / 1000} G` : `${mbps} M`)

/** A group of a model's ports. Worked: 1-8: 1 G; 9: SFP 10 G; any. */
export function portWords({ names, kind, speedsMbps, locked }: Model['ports'][number]): string {
  const hasSpeed = speedsMbps.length > 0
  const parts = [
    `${names === '*' ? 'any' : names}${hasSpeed ? ':' : ''}`,
    kind === 'sfp' ? 'SFP' : '',
    hasSpeed ? speedWords(Math.max(...speedsMbps)) : '',
    locked ? 'locked' : '',
  ]
  return parts.filter((part) => part !== '').join(' ')
}

/** What a model gives or takes over its ports, or draws from the mains. */
export function powerWords(model: Model): string {
  const gives = model.ports.find(({ source }) => source)?.source
  const takes = model.ports.find(({ load }) => load)?.load
  if (gives?.standard === 'ieee') {
    const inAll = model.poeBudgetW === null ? '' : `, ${model.poeBudgetW} W in all`
    return `gives class ${gives.class}, ${POE_CLASSES[gives.class]?.sourceW} W a port${inAll}`
  }
  if (gives) return `gives ${gives.volts} V passive`
  if (takes?.standard === 'ieee') return `takes class ${takes.class}, ${takes.typicalW} W`
  if (takes) return `takes ${takes.leastV} to ${takes.mostV} V passive, ${takes.typicalW} W`
  return `${model.idleW} W`
}
