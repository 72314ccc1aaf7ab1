import type { AuditAction } from '#contracts/audit'
import { AUDITED, type Asked } from '#server/audited'
import { routeKeyFor } from '#server/access'
import { hearOutcomes, type Outcome, type Visitor } from '#server/platform/route'
import { addressOf } from '#server/platform/visits'
import { note, organisationOfName } from '#server/services/audit'

// Writes down who did what. What cannot be written down is answered as a defect, so that somebody looks.

/** Refusals that leave a line; what is refused for being too much leaves none, or lines had no end. */
const NOTED: Readonly<Record<string, AuditAction>> = {
  'sign-in-wrong': 'sign-in-refused',
  'code-wrong': 'code-refused',
}

const nameIn = (value: unknown): string =>
  typeof value === 'object' && value !== null && 'name' in value ? String(value.name) : ''

/** What is written down of what became of a request, and whom it names; null where nothing is. */
function saidOf(outcome: Outcome, audited: (typeof AUDITED)[string], asked: Omit<Asked, 'answer'>) {
  if (!('refused' in outcome)) {
    const { answer } = outcome
    return { ...audited({ ...asked, answer }), name: nameIn(answer) }
  }
  const what = NOTED[outcome.refused]
  return what ? { what, subject: '', name: nameIn(asked.told) } : null
}

export default defineNitroPlugin(() =>
  hearOutcomes(async (event, outcome) => {
    const key = routeKeyFor(event.method, event.path.split('?')[0] ?? '')
    const audited = key === undefined ? undefined : AUDITED[key]
    if (!audited) return
    const {
      visitor,
      told = {},
      params = {},
    } = event.context as {
      readonly visitor?: Visitor
      readonly told?: Asked['told']
      readonly params?: Asked['params']
    }
    const site = params['site'] ?? ''
    const address = addressOf(event)
    const said = saidOf(outcome, audited, { params, told })
    if (!said) return
    const { what } = said
    const by = visitor?.token ? [`by the token ${visitor.token.name}`] : []
    const subject = [said.subject, ...by].filter((text) => text !== '').join(', ')
    const who = visitor?.name ?? said.name
    const organisationId = visitor?.organisation.id ?? (await organisationOfName(who))
    await note({ who, what, site, subject, address, organisationId })
  }),
)
