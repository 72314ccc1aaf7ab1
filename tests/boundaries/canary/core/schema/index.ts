import { address } from '#core/address'
import { inner } from '#core/address/inner'
import './not-there'
export const model = address + inner
