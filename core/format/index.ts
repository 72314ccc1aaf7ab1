export { LEAST_RSRP, LEAST_SINR, luhn, MOST_RSRP, MOST_SINR, parseApn, parseSim } from './cellular'
export {
  arePrintableLines,
  isDomain,
  isEndpoint,
  isPassphrase,
  isPrintableLine,
  isPublicKey,
  isCalendarDate,
  MOST_MINUTES,
  minuteOf,
  parseCountry,
  printableLine,
} from './texts'
export { MOST_BUILDINGS } from './limits'
export { PLAN_FORMAT, PLAN_VERSION } from './version'
