// Question: is this the number of a SIM, is this an access point name, is this a reading of a modem?
// Method: the check digit of the number; labels of the name; the range of what is reported.
// Source:
// ITU-T E.118 (numbers of SIMs) with the formula of ISO/IEC 7812-1 annex B (Luhn); 3GPP TS 23.003 section 9.1
// (access point names); ranges of 3GPP TS 38.133 table 10.1.6.1-1, from memory.
import { ok, problem, refuse, type Result } from '#core/util'

/** Reported values, dBm and dB: nothing outside them is a reading. */
export const [LEAST_RSRP, MOST_RSRP] = [-156, -31]
export const [LEAST_SINR, MOST_SINR] = [-23, 40]

/**
 * What is left of a sum of digits, every second of them doubled from the right; 0 for a number that checks.
 * Worked: 79927398713 -> 0.
 */
export function luhn(digits: string): number {
  const sum = [...digits].reverse().reduce((total, digit, i) => {
    const value = Number(digit) * (i % 2 === 0 ? 1 : 2)
    return total + (value > 9 ? value - 9 : value)
  }, 0)
  return sum % 10
}

/**
 * Reads the number printed on a SIM: 89, then the country's code, the issuer and the account, 18 to 20
 * digits, the last of which checks the rest.
 * Errors: not-a-sim; wrong-check.
 */
export function parseSim(text: string, place = ''): Result<string> {
  const digits = text.replaceAll(/[\s-]/g, '')
  if (!/^89\d{16,18}$/.test(digits)) return refuse(problem('not-a-sim', place, { text }))
  return luhn(digits) === 0 ? ok(digits) : refuse(problem('wrong-check', place, { text }))
}

/** Octets of an encoded access point name, and of the part that names the network (3GPP TS 23.003 section 9.1). */
const [MOST_APN, MOST_NETWORK_ID] = [100, 63]

/**
 * Reads an access point name: labels of letters, digits and hyphens, 62 characters before an operator's part, none that
 * networks keep for themselves.
 * Error: not-an-apn.
 */
export function parseApn(text: string, place = ''): Result<string> {
  const name = text.trim().toLowerCase()
  const kept =
    /^(rac|lac|sgsn|rnc)/.test(name) || (name.endsWith('.gprs') && !/\.mnc\d{3}\.mcc\d{3}\.gprs$/.test(name))
  const labels = name.split('.').every((label) => /^[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?$/.test(label))
  // With a byte of length before each label, as they are sent.
  const network = name.replace(/\.mnc\d{3}\.mcc\d{3}\.gprs$/, '')
  const fits = name.length + 1 <= MOST_APN && network.length + 1 <= MOST_NETWORK_ID
  return labels && !kept && fits ? ok(name) : refuse(problem('not-an-apn', place, { text }))
}
