import type { ProviderAddress, SignInWays, SignOnPurpose } from '#contracts/single-sign-on'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'

/** Where to ask to be sent to the provider, and where to take what it answered, by what for. */
export const PROVIDER_PATHS: Readonly<
  Record<SignOnPurpose, { readonly ask: string; readonly answer: string }>
> = {
  'sign-in': { ask: 'sign-in/provider', answer: 'sign-in/provider-answer' },
  join: { ask: 'join/provider', answer: 'join/provider-answer' },
  connect: { ask: 'me/identity', answer: 'me/identity/provider-answer' },
}

/** What the provider of single sign-on is called; null where there is none, or the server does not say. */
export async function providerName(): Promise<string | null> {
  const answer = await api<SignInWays>('GET', 'sign-in/ways')
  return answer.ok ? answer.value.provider : null
}

/** Leaves for the provider; why not, where that was refused. */
export async function goToProvider(purpose: SignOnPurpose, told: object): Promise<readonly Problem[]> {
  const answer = await api<ProviderAddress>('POST', PROVIDER_PATHS[purpose].ask, told)
  if (!answer.ok) return answer.refusal.problems
  await navigateTo(answer.value.url, { external: true })
  return []
}

/** What somebody was sent to the provider for; null where that is not what they come from. */
export function purposeOf(query: string): SignOnPurpose | null {
  const [purpose = ''] = (new URLSearchParams(query).get('state') ?? '').split('.')
  return Object.hasOwn(PROVIDER_PATHS, purpose) ? (purpose as SignOnPurpose) : null
}
