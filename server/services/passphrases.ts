import { randomInt } from 'node:crypto'
import type { KeptPassphrase, ShownPassphrase, Passphrase } from '#contracts/api'
import type { Plan, Ssid } from '#core/schema'
import { groupBy } from '#core/util'
import { hasPassphrase, joinText } from '#core/wifi'
import { now } from '#server/platform/clock'
import { database } from '#server/platform/database'
import { askHeavy } from '#server/platform/heavy'
import { log } from '#server/platform/log'
import { refused } from '#server/platform/route'
import { openSealed, seal } from '#server/platform/secrets'
import { preSharedKey } from '#server/platform/pre-shared-key'
import { keepPassphrase, notePassphraseShown, passphrasesOf } from '#server/repo/passphrases'
import { opened } from './opened'
import { siteAndPlan } from './plans'

/** Letters and digits that nobody takes for another: 31, so that 16 of them are 79 bits. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789'
const GROUPS = 4
const GROUP = 4

const generated = (): string =>
  Array.from({ length: GROUPS }, () =>
    Array.from({ length: GROUP }, () => LETTERS[randomInt(LETTERS.length)]).join(''),
  ).join('-')

function ssidOf(plan: Plan, id: string): Ssid {
  const ssid = plan.ssids.find((one) => one.id === id)
  if (!ssid) throw refused(409, 'no-such-ssid', 'ssid', { text: id })
  if (!hasPassphrase(ssid)) throw refused(409, 'no-passphrase-needed', 'ssid', { text: ssid.name })
  return ssid
}

/** Of those that are kept, none is told; whether it is soon guessed, and which others are the same, is. */
export async function listPassphrases(slug: string): Promise<Passphrase[]> {
  const { siteId } = await siteAndPlan(slug)
  const rows = await passphrasesOf(database(), siteId)
  // What another installation has sealed is the same as none.
  const byText = groupBy(rows, ({ sealed, ssidId }) => openSealed(sealed) ?? `\n${ssidId}`)
  const alike = new Map(
    [...byText.values()].flatMap((same) => same.map((row) => [row.ssidId, same] as const)),
  )
  return rows.map(({ ssidId, setAt, setBy, shownAt, shownBy, strength }) => ({
    ssidId,
    setAt: setAt.toISOString(),
    setBy,
    shownAt: shownAt?.toISOString() ?? null,
    shownBy,
    weakness: strength === 'fine' ? null : strength,
    sameAs: (alike.get(ssidId) ?? []).flatMap((row) => (row.ssidId === ssidId ? [] : [row.ssidId])),
  }))
}

/**
 * Keeps the passphrase of an SSID, sealed. Its stations have to be told.
 * @param typed null: one is generated
 * @returns names of other SSIDs of the plan that have the same
 */
export async function setPassphrase(
  slug: string,
  ssidId: string,
  typed: string | null,
  who: string,
): Promise<KeptPassphrase> {
  const { siteId, current } = await siteAndPlan(slug)
  ssidOf(current.plan, ssidId)
  const text = typed ?? generated()
  const { site, ssids } = current.plan
  const strength = await askHeavy('strengthOf', text, [site.name, ...ssids.map(({ name }) => name)])
  const others = await passphrasesOf(database(), siteId)
  const alike = others.filter((row) => row.ssidId !== ssidId && openSealed(row.sealed) === text)
  await keepPassphrase(database(), { siteId, ssidId, sealed: seal(text), setAt: now(), setBy: who, strength })
  const names = ssids.filter(({ id }) => alike.some((row) => row.ssidId === id))
  return { sameAs: names.map(({ name }) => name) }
}

/** The passphrase and what it makes; who was shown it is kept. */
export async function showPassphrase(slug: string, ssidId: string, who: string): Promise<ShownPassphrase> {
  const { siteId, current } = await siteAndPlan(slug)
  const ssid = ssidOf(current.plan, ssidId)
  const row = (await passphrasesOf(database(), siteId)).find((one) => one.ssidId === ssidId)
  if (!row) throw refused(409, 'no-passphrase', 'ssid', { text: ssid.name })
  const passphrase = opened(row.sealed)
  await notePassphraseShown(database(), siteId, ssidId, now(), who)
  log.info({ site: slug, ssid: ssidId, who }, 'a passphrase was shown')
  return {
    passphrase,
    preSharedKey: preSharedKey(passphrase, ssid.name),
    joinText: joinText(ssid, passphrase) ?? '',
  }
}
