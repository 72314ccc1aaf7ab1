import type { Me } from '#contracts/api'
import { EDITORS, HANDS, roleAtSite, type Role } from '#contracts/roles'
import type { Problem } from '#core/util'
import { api } from './api'
import { forgetSavedPlans } from './draft-store'
import { forgetAnswers, keepMe, readMe } from './kept-answers'
import { dropOverdue } from './sealed-secrets'

const LANDING: Readonly<Record<Role, string>> = {
  administrator: 'addresses',
  planner: 'addresses',
  rigger: 'roster',
  keeper: 'hand-over',
}

/** A one-time link is for whoever has it, signed in or not; from single sign-on one comes either way. */
export const FOR_ANYBODY: readonly string[] = ['/join', '/single-sign-on']

/** Who is signed in. `undefined` until the server was asked. */
export const useSession = defineStore('session', () => {
  const me = ref<Me | null>()
  /** Slug of the site that is looked at; empty outside of any. */
  const here = ref('')

  async function load(): Promise<void> {
    if (me.value !== undefined) return
    await refresh()
    void dropOverdue(Date.now())
  }

  /** Asks again who they are, after something of that has changed. */
  async function refresh(): Promise<void> {
    me.value = await readMe()
  }

  /** Comes in by whatever lets one in, as by `sign-in` or `join`; why not, where it was refused. */
  async function enter(path: string, told: object): Promise<readonly Problem[]> {
    const answer = await api<Me | Pick<Me, 'name'>>('POST', path, told)
    if (!answer.ok) return answer.refusal.problems
    // Of who has to show a second factor yet the server says no more than the name.
    me.value = 'role' in answer.value ? answer.value : null
    await keepMe(me.value)
    return []
  }

  /** Leaves by a fresh page: what was in memory is nobody else's, nor is what the browser kept of saved plans. */
  async function signOut(): Promise<void> {
    const name = me.value?.name ?? ''
    await api('POST', 'sign-out', {})
    me.value = null
    await Promise.all([forgetSavedPlans(name), forgetAnswers(name)])
    await navigateTo('/sign-in', { external: true })
  }

  /** What they may do at a site; outside of any, in the organisation. */
  const roleAt = (slug: string): Role | null => (me.value ? roleAtSite(me.value, slug) : null)
  const role = computed(() => roleAt(here.value))
  const mayBe = (roles: readonly Role[]): boolean => role.value !== null && roles.includes(role.value)
  const edits = computed(() => mayBe(EDITORS))
  const works = computed(() => mayBe(HANDS))
  const administers = computed(() => me.value?.role === 'administrator')

  /** The sheet of a site on which a person's work begins. */
  const landingAt = (slug: string): string => LANDING[roleAt(slug) ?? 'keeper']

  return { me, here, load, refresh, enter, signOut, roleAt, edits, works, administers, landingAt }
})
