import type { NewWebhook, WebhookEvent, WebhookLine } from '#contracts/webhooks'
import type { Problem } from '#core/util'
import { api, type Answer } from '~/stores/api'

/** The programs that an organisation has told, and what an administrator does with them. */
export function useWebhooks() {
  const webhooks = shallowRef<readonly WebhookLine[] | null>(null)
  const problems = shallowRef<readonly Problem[]>([])
  /** Shown once, of a webhook that was added. */
  const secret = ref<string | null>(null)

  async function read(): Promise<void> {
    const answer = await api<readonly WebhookLine[]>('GET', 'webhooks')
    if (answer.ok) webhooks.value = answer.value
    else problems.value = answer.refusal.problems
  }
  async function taken(answer: Answer<unknown>): Promise<void> {
    problems.value = answer.ok ? [] : answer.refusal.problems
    await read()
  }

  async function add(url: string, events: readonly WebhookEvent[]): Promise<readonly Problem[]> {
    const answer = await api<NewWebhook>('POST', 'webhooks', { url, events })
    if (!answer.ok) return answer.refusal.problems
    secret.value = answer.value.secret
    await read()
    return []
  }
  const pause = async ({ id }: WebhookLine, isPaused: boolean): Promise<void> =>
    taken(await api('PATCH', `webhooks/${id}`, { isPaused }))
  const tryOut = async ({ id }: WebhookLine): Promise<void> =>
    taken(await api('POST', `webhooks/${id}/try`, {}))
  const remove = async ({ id }: WebhookLine): Promise<void> => taken(await api('DELETE', `webhooks/${id}`))

  return { webhooks, problems, secret, read, add, pause, tryOut, remove }
}
