// Question: which algorithms of IPsec may be used today?
// Method: a table of the transforms that are met, by IANA's names, each with what the standard says of it.
// Source:
// RFC 8247 (IKEv2) and RFC 8221 (ESP), section by section, from memory;
// RFC 8031 (group 31), RFC 9395 (IKEv1 is historic).
import type { IpsecSuite } from '#core/schema'

export type Standing = 'must' | 'should' | 'may' | 'should-not' | 'must-not'
export interface Algorithm {
  readonly name: string
  readonly ike: Standing | null
  readonly esp: Standing | null
}

const row = (name: string, ike: Standing | null, esp: Standing | null): Algorithm => ({ name, ike, esp })

/** Encrypts and protects in one: needs no integrity of its own. */
const COMBINED = ['AES_GCM_16', 'AES_CCM_8', 'CHACHA20_POLY1305']
export const isCombined = (name: string): boolean => COMBINED.some((c) => name.startsWith(c))

/** Key length behind the slash, in bits, where the algorithm has several. */
export const ENCRYPTION: readonly Algorithm[] = [
  row('AES_GCM_16/256', 'should', 'must'),
  row('AES_GCM_16/128', 'should', 'must'),
  row('CHACHA20_POLY1305', 'should', 'should'),
  row('AES_CBC/256', 'must', 'must'),
  row('AES_CBC/128', 'must', 'must'),
  row('AES_CCM_8/128', 'should', 'should'),
  row('3DES', 'may', 'should-not'),
  row('BLOWFISH', null, 'must-not'),
  row('DES', 'must-not', 'must-not'),
]
export const INTEGRITY: readonly Algorithm[] = [
  row('HMAC_SHA2_256_128', 'must', 'must'),
  row('HMAC_SHA2_512_256', 'should', 'should'),
  row('AES_XCBC_96', 'should', 'should'),
  row('HMAC_SHA1_96', 'must', 'must'),
  row('HMAC_MD5_96', 'must-not', 'must-not'),
]
export const PRF: readonly Algorithm[] = [
  row('HMAC_SHA2_256', 'must', null),
  row('HMAC_SHA2_512', 'should', null),
  row('AES128_XCBC', 'should', null),
  row('HMAC_SHA1', 'must', null),
  row('HMAC_MD5', 'must-not', null),
]
/** By number; a group says the same for either use. */
export const GROUPS: ReadonlyMap<number, Standing> = new Map([
  [14, 'must'],
  [19, 'should'],
  [20, 'may'],
  [31, 'may'],
  [15, 'may'],
  [16, 'may'],
  [5, 'should-not'],
  [2, 'should-not'],
  [23, 'should-not'],
  [24, 'should-not'],
  [1, 'must-not'],
  [22, 'must-not'],
])

/** What a suite names that is not known here, by kind. */
export function unknownIn(suite: IpsecSuite): string[] {
  const missing = (list: readonly string[], known: readonly Algorithm[]) =>
    list.filter((name) => !known.some((a) => a.name === name))
  return [
    ...missing(suite.encryption, ENCRYPTION),
    ...missing(suite.integrity, INTEGRITY),
    ...missing(suite.prf, PRF),
    ...suite.groups.filter((g) => !GROUPS.has(g)).map((g) => `group ${g}`),
  ]
}

export interface Advice {
  readonly name: string
  readonly standing: 'should-not' | 'must-not'
}

/** What a suite offers that the standard advises against, or forbids. */
export function adviceFor(suite: IpsecSuite, use: 'ike' | 'esp'): Advice[] {
  const bad = (name: string, standing: Standing | null | undefined): Advice[] =>
    standing === 'should-not' || standing === 'must-not' ? [{ name, standing }] : []
  const of = (list: readonly string[], known: readonly Algorithm[]) =>
    list.flatMap((name) => bad(name, known.find((a) => a.name === name)?.[use]))
  return [
    ...of(suite.encryption, ENCRYPTION),
    ...of(suite.integrity, INTEGRITY),
    ...(use === 'ike' ? of(suite.prf, PRF) : []),
    ...suite.groups.flatMap((g) => bad(`group ${g}`, GROUPS.get(g))),
  ]
}
