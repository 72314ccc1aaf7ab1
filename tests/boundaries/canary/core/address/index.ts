export { model } from '#core/schema'
export const address = 1
