import type { OneTimeLink, PersonLine } from '#contracts/accounts'
import type { SiteLine } from '#contracts/api'
import type { Role } from '#contracts/roles'
import type { Problem } from '#core/util'
import { readSites } from '~/stores/all-sites'
import { api, type Answer } from '~/stores/api'
import { useSession } from '~/stores/session'

/** A link that is to be handed to somebody; it is told once. */
export interface Handed {
  /** Null for somebody of another organisation. */
  readonly personId: number | null
  readonly name: string
  readonly link: OneTimeLink
}

/** What somebody may do: at every site, or at single ones. */
export interface Rights {
  readonly role: Role | null
  readonly sites: readonly { readonly site: string; readonly role: Role }[]
}

/** The people of an organisation, and what an administrator does with them. */
export function usePeople() {
  const session = useSession()
  const people = shallowRef<readonly PersonLine[] | null>(null)
  /** Sites at which somebody can have a role of their own. */
  const sites = shallowRef<readonly SiteLine[]>([])
  const problems = shallowRef<readonly Problem[]>([])
  const handed = shallowRef<Handed | null>(null)

  async function read(): Promise<void> {
    const [answer, all] = await Promise.all([
      api<readonly PersonLine[]>('GET', 'people'),
      readSites(session.me?.name ?? ''),
    ])
    if (answer.ok) people.value = answer.value
    else problems.value = answer.refusal.problems
    if (all.ok) sites.value = all.value
  }

  /** Takes an answer; the list is read anew where it was a good one. */
  async function taken(answer: Answer<unknown>): Promise<boolean> {
    problems.value = answer.ok ? [] : answer.refusal.problems
    await read()
    return answer.ok
  }

  async function invite(name: string, rights: Rights): Promise<readonly Problem[]> {
    const answer = await api<{ readonly person: PersonLine; readonly link: OneTimeLink }>('POST', 'people', {
      name,
      ...rights,
    })
    if (!answer.ok) return answer.refusal.problems
    const { person, link } = answer.value
    await read()
    // Once the dialog that asked has closed, and the focus is where it was: it would be taken from this one.
    setTimeout(() => (handed.value = { personId: person.id, name, link }))
    return []
  }

  async function relink({ id, name }: PersonLine): Promise<void> {
    const answer = await api<OneTimeLink>('POST', `people/${id}/link`, {})
    if ((await taken(answer)) && answer.ok) handed.value = { personId: id, name, link: answer.value }
  }

  const change = async (
    { id }: PersonLine,
    wanted: Partial<Rights> & { readonly isDisabled?: boolean; readonly isOperator?: boolean },
  ): Promise<void> => void (await taken(await api('PATCH', `people/${id}`, wanted)))

  /** For somebody who has lost them. */
  const clearFactors = async ({ id }: PersonLine): Promise<void> =>
    void (await taken(await api('POST', `people/${id}/clear-factors`, {})))

  const remove = async ({ id }: PersonLine): Promise<void> =>
    void (await taken(await api('DELETE', `people/${id}`)))

  return { people, sites, problems, handed, read, invite, change, clearFactors, remove, relink }
}
