import type { Change, Json } from '#core/edit'
import type { Plan, PortMode, DeviceId } from '#core/schema'
import { modeText } from '#core/export'

const isObject = (value: Json): value is { readonly [key: string]: Json } =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** A value as a person would write it. */
export function valueText(value: Json): string {
  if (value === null) return 'none'
  if (Array.isArray(value)) return value.length === 0 ? 'none' : value.map(valueText).join(', ')
  if (!isObject(value)) return String(value)
  if (typeof value['mode'] === 'string') {
    const { mode, native, tagged } = modeText(value as unknown as PortMode)
    return [mode, native === '' ? '' : `native ${native}`, tagged === '' ? '' : `tagged ${tagged}`]
      .filter((t) => t !== '')
      .join(', ')
  }
  if (typeof value['from'] === 'string' && typeof value['to'] === 'string')
    return `${value['from']} to ${value['to']}`
  if (typeof value['name'] === 'string')
    return typeof value['ip'] === 'string' ? `${value['name']} ${value['ip']}` : value['name']
  return Object.entries(value)
    .filter(([, v]) => !isObject(v) && !Array.isArray(v))
    .map(([k, v]) => `${k} ${valueText(v)}`)
    .join(', ')
}

type Named = {
  readonly id?: string
  readonly name?: string
  readonly deviceId?: DeviceId
  readonly note?: string
}

/** A change's path with names in place of ids, as far as either plan knows them. */
export function pathText(path: readonly string[], plans: readonly Plan[]): string {
  const words: string[] = []
  let nodes: unknown[] = [...plans]
  for (const key of path) {
    const next = nodes.map((node) => {
      if (Array.isArray(node)) return (node as Named[]).find((item) => (item.id ?? item.deviceId) === key)
      return typeof node === 'object' && node !== null ? (node as Record<string, unknown>)[key] : undefined
    })
    const inList = nodes.some((node) => Array.isArray(node))
    const item = next.find((n) => n !== undefined) as Named | undefined
    const named = inList ? (item?.name ?? item?.note ?? key) : key
    words.push(key === '#order' ? 'order' : named)
    nodes = next
  }
  // The names of lists say nothing once their items are named.
  return words
    .filter(
      (word, i) =>
        !(
          [
            'networks',
            'devices',
            'ports',
            'links',
            'fixed',
            'policies',
            'rules',
            'pairs',
            'groups',
            'intents',
          ].includes(word) && i < words.length - 1
        ),
    )
    .join(' · ')
}

export function changeText(change: Change, plans: readonly Plan[]): string {
  const where = pathText(change.path, plans)
  switch (change.kind) {
    case 'added':
      return `${where} added: ${valueText(change.after)}`
    case 'removed':
      return `${where} removed: ${valueText(change.before)}`
    case 'set':
      return `${where}: ${valueText(change.before)} → ${valueText(change.after)}`
  }
}
