import type { Me } from '#contracts/api'
import { EDITORS, HANDS, type Role } from '#contracts/roles'
import type { Problem } from '#core/util'
import { api } from './api'
import { forgetSavedPlans } from './draft-store'
import { forgetAnswers, keepMe, readMe } from './kept-answers'

const LANDING: Readonly<Record<Me['role'], string>> = {
  administrator: 'addresses',
  planner: 'addresses',
  rigger: 'roster',
  keeper: 'hand-over',
}

/** Who is signed in. `undefined` until the server was asked. */
export const useSession = defineStore('session', () => {
  const me = ref<Me | null>()

  async function load(): Promise<void> {
    if (me.value === undefined) me.value = await readMe()
  }

  /** Comes in by whatever lets one in; why not, where it was refused. */
  async function enter(path: 'sign-in' | 'join' | 'join/first', told: object): Promise<readonly Problem[]> {
    const answer = await api<Me>('POST', path, told)
    if (!answer.ok) return answer.refusal.problems
    me.value = answer.value
    await keepMe(answer.value)
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

  const mayBe = (roles: readonly Role[]): boolean => me.value != null && roles.includes(me.value.role)
  const edits = computed(() => mayBe(EDITORS))
  const works = computed(() => mayBe(HANDS))
  const administers = computed(() => me.value?.role === 'administrator')

  /** The sheet on which a person's work begins. */
  const landing = computed(() => (me.value ? LANDING[me.value.role] : 'addresses'))

  return { me, load, enter, signOut, edits, works, administers, landing }
})
