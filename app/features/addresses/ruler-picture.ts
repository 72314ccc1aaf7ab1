import {
  contains,
  formatIpv4,
  gapsIn,
  largestIn,
  parseIpv4,
  parsePrefix4,
  sizeOf,
  type Ipv4,
  type Prefix4,
} from '#core/address'
import type { Finding } from '#core/findings'
import type { Network, Plan } from '#core/schema'
import { orNull } from '#core/util'
import type { Ref } from 'vue'
import { endOf, ticksOf, type RulerView } from './ruler-view'

// What stands on the ruler of a site's block, in pixels of its view.

/** A network as a length on the ruler. */
export interface Length {
  readonly network: Network
  readonly prefix: Prefix4
  readonly x: number
  readonly w: number
  readonly wrong: boolean
}

export const readPrefix = (text: string): Prefix4 | null => orNull(parsePrefix4(text))

/** As much of what a gap has to say as its width has room for. */
function fitting(widthPx: number, whole: string, length: number): string {
  if (widthPx > 300) return whole
  if (widthPx > 66) return `free /${length}`
  return widthPx > 26 ? `/${length}` : ''
}

const isWrong = (findings: readonly Finding[], network: Network): boolean =>
  findings.some(
    ({ severity, place: [list, id, field] }) =>
      severity === 'blocker' && list === 'networks' && id === network.id && field === 'subnet',
  )

const possessive = (name: string): string => (name.endsWith('s') ? `${name}'` : `${name}'s`)

export interface RulerProps {
  readonly plan: Plan
  readonly findings: readonly Finding[]
}
interface Scale {
  readonly block: Readonly<Ref<Prefix4 | null>>
  readonly view: Readonly<Ref<RulerView>>
  readonly width: Readonly<Ref<number>>
}

/** Networks of the plan by whether they lie in the site's block. */
function useNetworks(props: RulerProps, block: Scale['block']) {
  const inBlock = (prefix: Prefix4) =>
    block.value !== null && prefix.length >= block.value.length && contains(block.value, prefix.base)
  const read = computed(() =>
    props.plan.networks.flatMap((network) => {
      const prefix = readPrefix(network.subnet)
      return prefix ? [{ network, prefix }] : []
    }),
  )
  return {
    all: computed(() => read.value.filter(({ prefix }) => inBlock(prefix))),
    outside: computed(() =>
      read.value.filter(({ prefix }) => !inBlock(prefix)).map(({ network }) => network),
    ),
  }
}

/** Lengths, gaps, ticks and gateways that were typed in the wrong place. */
export function useRulerPicture(props: RulerProps, { block, view, width }: Scale) {
  const { all, outside } = useNetworks(props, block)
  const x = (address: number): number => ((address - view.value.from) / view.value.size) * width.value
  const isShown = (from: number, to: number) =>
    to > view.value.from && from < view.value.from + view.value.size

  /** The octets that vary inside the block. */
  function tail(address: Ipv4): string {
    const fixed = Math.min(3, Math.floor((block.value?.length ?? 0) / 8))
    return `.${formatIpv4(address).split('.').slice(fixed).join('.')}`
  }
  const ticks = computed(() =>
    ticksOf(view.value).map(({ at, tall }) => ({ x: x(at), label: tall ? tail(at) : '', tall })),
  )
  const lengths = computed((): Length[] =>
    all.value
      .filter(({ prefix }) => isShown(prefix.base, endOf(prefix)))
      .map(({ network, prefix }) => {
        const left = Math.max(-2, x(prefix.base))
        const right = Math.min(width.value + 2, x(endOf(prefix)))
        return {
          network,
          prefix,
          x: left,
          w: Math.max(4, right - left),
          wrong: isWrong(props.findings, network),
        }
      })
      .sort((a, b) => a.x - b.x),
  )
  const free = computed(() =>
    block.value
      ? gapsIn(
          block.value,
          all.value.map((l) => l.prefix),
        )
      : [],
  )
  const gaps = computed(() =>
    free.value
      .filter((gap) => isShown(gap.from, gap.to + 1))
      .map((gap) => {
        const { length } = largestIn(gap)
        const left = Math.max(0, x(gap.from))
        const pixels = Math.min(width.value, x(gap.to + 1)) - left
        const title = `free: one /${length} (${sizeOf(length).toLocaleString('en')} addresses), aligned`
        return { x: left, w: pixels, text: fitting(pixels, title, length), title }
      }),
  )
  return { all, outside, ticks, lengths, free, gaps, ...useStrays(props, { all, block, x, isShown }) }
}

interface StrayScale {
  readonly all: Readonly<Ref<readonly { readonly network: Network; readonly prefix: Prefix4 }[]>>
  readonly block: Scale['block']
  readonly x: (address: number) => number
  readonly isShown: (from: number, to: number) => boolean
}
/** Gateways typed into another place than their own subnet. */
function useStrays(props: RulerProps, { all, block, x, isShown }: StrayScale) {
  const strays = computed(() =>
    props.findings
      .filter((f) => f.code === 'A01')
      .flatMap(({ place: [, id] }) => {
        const network = props.plan.networks.find((n) => n.id === id)
        const ip = orNull(parseIpv4(network?.gateway ?? ''))
        if (!network || ip === null || !block.value) return []
        if (!contains(block.value, ip) || !isShown(ip, ip + 1)) return []
        const host = all.value.find((l) => contains(l.prefix, ip))
        const within = host ? `, in ${host.network.name}` : ''
        return [{ x: x(ip), text: `${possessive(network.name)} gateway was typed here${within}` }]
      }),
  )
  return { strays }
}
