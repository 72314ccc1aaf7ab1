import fastJsonPatch from 'fast-json-patch'
import type { PatchOp } from './api'

type Fields = Readonly<Record<string, unknown>>
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
const pointer = (key: string): string => `/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`
const alikeKeys = (first: Fields, second: Fields): boolean => {
  const keys = Object.keys(first)
  return keys.length === Object.keys(second).length && keys.every((key) => key in second)
}

/**
 * The JSON patch (RFC 6902) from one document to another.
 * What both hold as the very same object is not looked into, so that the
 * patch of one edit costs what the edit touched, however large the rest is.
 */
export function patchBetween(before: unknown, after: unknown, place = ''): PatchOp[] {
  if (before === after) return []
  if (Array.isArray(before) && Array.isArray(after) && before.length === after.length) {
    return after.flatMap((item, i) => patchBetween(before[i], item, `${place}/${i}`))
  }
  if (isFields(before) && isFields(after) && alikeKeys(before, after)) {
    return Object.keys(after).flatMap((key) => patchBetween(before[key], after[key], place + pointer(key)))
  }
  // Under a key of its own, so that a changed number or text has a place too.
  const ops = fastJsonPatch.compare({ x: before }, { x: after }) as PatchOp[]
  return ops.map((op) => ({ ...op, path: place + op.path.slice(2) }))
}
