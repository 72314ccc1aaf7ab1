import { randomUUID } from 'node:crypto'
import type { H3Event } from 'h3'
import type { z } from 'zod'
import type { PlanAt, Refusal } from '#contracts/api'
import type { Role, SiteRoles } from '#contracts/roles'
import { readJson } from '#contracts/json'
import { problemsOf } from '#contracts/plan'
import { problem, type Problem } from '#core/util'
import { describeError, log } from './log'
import { asServer, inOrganisation } from './scope'

/** A refusal on its way to the edge; the only thing besides a defect that a service may throw. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problems: readonly Problem[],
    readonly current?: PlanAt,
  ) {
    super(problems[0]?.code ?? 'refused')
  }
}

export function refused(status: number, code: string, place = '', values: Problem['values'] = {}): Refused {
  return new Refused(status, [problem(code, place, values)])
}

/** Who is signed in, and by which session. */
export interface Visitor {
  readonly personId: number
  readonly sessionId: string
  readonly name: string
  readonly organisation: { readonly id: number; readonly name: string; readonly needsFactor: boolean }
  /** At every site of the organisation; null for who is at single sites alone. */
  readonly role: Role | null
  /** At single sites, by slug, whatever they are elsewhere. */
  readonly siteRoles: SiteRoles
  readonly isOperator: boolean
  readonly hasPassword: boolean
  readonly hasFactor: boolean
  /** By which a program asks as them; null for who asks themselves. */
  readonly token: { readonly name: string; readonly mayWrite: boolean } | null
}

/** Who asks, put there by the guard. */
export function visitorOf(event: H3Event): Visitor {
  const visitor = event.context['visitor'] as Visitor | undefined
  if (!visitor) throw refused(401, 'sign-in-needed')
  return visitor
}

/** What became of a request: answered, or refused with a code. */
export type Outcome = { readonly answer: unknown } | { readonly refused: string }
type OutcomeListener = (event: H3Event, outcome: Outcome) => Promise<void>
let heard: OutcomeListener = async () => undefined

/** Hears what became of each request, before whoever asked does. */
export const hearOutcomes = (listener: OutcomeListener): void => void (heard = listener)

/**
 * Wraps a handler: refusals become their status and body, defects a reference number with the details in the
 * log.
 */
export function route<T>(handler: (event: H3Event) => Promise<T>) {
  return defineEventHandler((event) => scoped(event, () => answered(event, handler)))
}

/** What is asked for by somebody is asked for their organisation. */
function scoped<T>(event: H3Event, work: () => T): T {
  const visitor = event.context['visitor'] as Visitor | undefined
  return visitor ? inOrganisation(visitor.organisation.id, work) : asServer(work)
}

async function answered<T>(event: H3Event, handler: (event: H3Event) => Promise<T>): Promise<T | Refusal> {
  setResponseHeader(event, 'cache-control', 'no-store')
  try {
    const answer = await handler(event)
    await heard(event, { answer })
    return answer
  } catch (error) {
    if (error instanceof Refused) {
      await heard(event, { refused: error.message })
      setResponseStatus(event, error.status)
      return { problems: error.problems, ...(error.current ? { current: error.current } : {}) }
    }
    const reference = randomUUID().slice(0, 8)
    log.error({ reference, path: event.path, error: describeError(error) }, 'defect')
    setResponseStatus(event, 500)
    return { problems: [problem('defect', '', { reference })], reference }
  }
}

/**
 * An answer that is kept for many readers, as bytes: it is written out once for as long as it is kept, and
 * must not be changed.
 */
const keptBytes = new WeakMap<object, Buffer>()
function bytesOf(kept: object): Buffer {
  const bytes = keptBytes.get(kept) ?? Buffer.from(JSON.stringify(kept))
  keptBytes.set(kept, bytes)
  return bytes
}
export function keptRoute(handler: (event: H3Event) => Promise<object>) {
  return route(async (event) => {
    const bytes = bytesOf(await handler(event))
    setResponseHeader(event, 'content-type', 'application/json')
    return bytes
  })
}

/** Reads and checks a JSON body. Larger bodies are refused by their declared length before they are read. */
export async function readChecked<S extends z.ZodType>(
  event: H3Event,
  schema: S,
  mostBytes = 256_000,
): Promise<z.infer<S>> {
  const declared = Number(getRequestHeader(event, 'content-length') ?? Number.NaN)
  if (!Number.isFinite(declared)) throw refused(411, 'length-needed')
  if (declared > mostBytes) throw refused(413, 'too-large', '', { bytes: declared, most: mostBytes })
  const text = (await readRawBody(event, 'utf8')) ?? ''
  const read = readJson(text)
  if (!read.ok) throw new Refused(400, read.problems)
  const parsed = schema.safeParse(read.value)
  if (!parsed.success) throw new Refused(400, problemsOf(parsed.error, read.value))
  event.context['told'] = parsed.data
  return parsed.data
}

/** Reads and checks what stands behind the question mark. */
export function queryOf<S extends z.ZodType>(event: H3Event, schema: S): z.infer<S> {
  const asked = getQuery(event)
  const parsed = schema.safeParse(asked)
  if (!parsed.success) throw new Refused(400, problemsOf(parsed.error, asked))
  return parsed.data
}

/** A number in a path; NaN for what is none. */
export const numberOf = (event: H3Event, name: string): number => Number(getRouterParam(event, name))

export function slugOf(event: H3Event): string {
  return getRouterParam(event, 'site') ?? ''
}
