export { model } from '#core/model'
export const address = 1
