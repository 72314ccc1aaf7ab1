import type { AuditCheck, AuditLine } from '#contracts/audit'
import { AUDIT_PAGE } from '#contracts/limits'
import type { Problem } from '#core/util'
import { api } from '~/stores/api'

/** Lines of the audit, newest first, page by page, as they are asked for. */
export function useAudit() {
  const lines = shallowRef<readonly AuditLine[] | null>(null)
  const isMore = ref(false)
  const problems = shallowRef<readonly Problem[]>([])
  const check = shallowRef<AuditCheck | null>(null)
  const wanted = reactive<{ who: string | null; what: string | null; site: string | null }>({
    who: null,
    what: null,
    site: null,
  })
  let newest = 0

  async function ask(before: number | null): Promise<readonly AuditLine[] | null> {
    const asking = ++newest
    const query = new URLSearchParams()
    for (const [key, value] of Object.entries({ ...wanted, before })) {
      const text = String(value ?? '').trim()
      if (text !== '') query.set(key, text)
    }
    const answer = await api<readonly AuditLine[]>('GET', `audit?${query.toString()}`)
    if (asking !== newest) return null
    problems.value = answer.ok ? [] : answer.refusal.problems
    if (!answer.ok) return null
    isMore.value = answer.value.length === AUDIT_PAGE
    return answer.value
  }

  async function read(): Promise<void> {
    const page = await ask(null)
    if (page) lines.value = page
  }
  async function readOlder(): Promise<void> {
    const page = await ask(lines.value?.at(-1)?.id ?? null)
    if (page) lines.value = [...(lines.value ?? []), ...page]
  }
  async function verify(): Promise<void> {
    const answer = await api<AuditCheck>('GET', 'audit/check')
    problems.value = answer.ok ? [] : answer.refusal.problems
    if (answer.ok) check.value = answer.value
  }
  return { lines, isMore, problems, check, wanted, read, readOlder, verify }
}
