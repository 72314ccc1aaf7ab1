/** A number with what it counts: `1 switch`, `2 switches`. */
export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`
