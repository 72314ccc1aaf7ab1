// A plan's document before the schema has seen it.
export type Fields = Readonly<Record<string, unknown>>
export const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
/** Each item of a list with a change; anything else is left as it is, for the schema to refuse. */
export const each = (list: unknown, make: (item: Fields) => Fields): unknown =>
  Array.isArray(list) ? list.map((item: unknown) => (isFields(item) ? make(item) : item)) : list
/** The fields of a part with a change; anything else is left as it is. */
export const within = (part: unknown, make: (fields: Fields) => Fields): unknown =>
  isFields(part) ? make(part) : part
