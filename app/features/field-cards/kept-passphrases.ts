import { useTimeoutFn } from '@vueuse/core'
import type { Passphrase, ShownPassphrase } from '#contracts/api'
import { problem, type Problem } from '#core/util'
import { api } from '~/stores/api'
import { usePlan } from '~/stores/plan'
import {
  canSeal,
  dropSecrets,
  openSecrets,
  sealedAt,
  sealSecrets,
  type Secret,
} from '~/stores/sealed-secrets'
import { useSession } from '~/stores/session'
import { dateText } from '~/wording/adoption'
import { PASSPHRASES } from './words'

const HOUR_MS = 3_600_000
/** Opened, they are closed again after so long. */
const CLOSED_AFTER_MS = 5 * 60_000

interface Asked {
  readonly secrets: readonly Secret[]
  readonly problems: readonly Problem[]
}
const refusedFor = (problems: readonly Problem[]): Asked => ({ secrets: [], problems })

/** What the server tells of a site's passphrases; each telling is noted there. */
async function askAll(slug: string, names: ReadonlyMap<string, string>): Promise<Asked> {
  const list = await api<Passphrase[]>('GET', `sites/${slug}/passphrases`)
  if (!list.ok) return refusedFor(list.refusal.problems)
  const secrets: Secret[] = []
  for (const { ssidId } of list.value.filter((each) => names.has(each.ssidId))) {
    const shown = await api<ShownPassphrase>('POST', `sites/${slug}/passphrases/show`, { ssid: ssidId })
    if (!shown.ok) return refusedFor(shown.refusal.problems)
    secrets.push({ name: names.get(ssidId) ?? '', value: shown.value.passphrase })
  }
  return secrets.length > 0 ? { secrets, problems: [] } : refusedFor([problem('no-passphrases', '')])
}

/** Seals what the server tells of the site that is open. */
async function askAndSeal(
  person: string,
  how: { readonly pin: string; readonly untilMs: number },
): Promise<Asked> {
  const { slug, draft } = usePlan()
  const asked = await askAll(slug, new Map((draft?.ssids ?? []).map(({ id, name }) => [id, name])))
  if (asked.problems.length > 0 || (await sealSecrets(person, slug, asked.secrets, how))) return asked
  return refusedFor([problem('nothing-kept', '')])
}

/** Passphrases of the site that is open, sealed on this device where somebody chose so. */
export function useKeptPassphrases() {
  const plan = usePlan()
  const session = useSession()
  const person = () => session.me?.name ?? ''
  const isPossible = canSeal()
  /** Until when they are sealed here, ms; null where none are. */
  const untilMs = ref<number | null>(null)
  const secrets = shallowRef<readonly Secret[] | null>(null)
  const problems = shallowRef<readonly Problem[]>([])
  const says = ref('')
  const isBusy = ref(false)
  const timer = useTimeoutFn(close, CLOSED_AFTER_MS, { immediate: false })

  async function look(): Promise<void> {
    const kept = isPossible ? await sealedAt(person(), plan.slug, Date.now()) : null
    untilMs.value = kept?.untilMs ?? null
  }
  watch(
    () => plan.slug,
    () => {
      close()
      void look()
    },
    { immediate: true },
  )

  function close(): void {
    timer.stop()
    secrets.value = null
    says.value = ''
  }

  async function seal(pin: string, hours: number): Promise<boolean> {
    isBusy.value = true
    const until = Date.now() + hours * HOUR_MS
    const asked = await askAndSeal(person(), { pin, untilMs: until })
    isBusy.value = false
    problems.value = asked.problems
    says.value = asked.problems.length === 0 ? PASSPHRASES.sealed(asked.secrets.length, dateText(until)) : ''
    await look()
    return asked.problems.length === 0
  }

  async function open(pin: string): Promise<boolean> {
    isBusy.value = true
    const opening = await openSecrets(person(), plan.slug, pin, Date.now())
    isBusy.value = false
    secrets.value = opening.kind === 'opened' ? opening.secrets : null
    if (opening.kind === 'opened') timer.start()
    says.value = opening.kind === 'wrong' ? PASSPHRASES.wrong(opening.triesLeft) : PASSPHRASES[opening.kind]
    await look()
    return opening.kind === 'opened'
  }

  async function drop(): Promise<void> {
    close()
    await dropSecrets(person(), plan.slug)
    says.value = PASSPHRASES.gone
    await look()
  }

  return { isPossible, untilMs, secrets, problems, says, isBusy, seal, open, close, drop }
}
