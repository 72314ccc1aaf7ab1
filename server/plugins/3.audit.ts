import { AUDITED, type Asked } from '#server/audited'
import { routeKeyFor } from '#server/access'
import { hearOutcomes, type Visitor } from '#server/platform/route'
import { addressOf } from '#server/platform/visits'
import { note, organisationOfName } from '#server/services/audit'

// Writes down who did what. What cannot be written down is answered as a defect, so that somebody looks.

/** The refusal that leaves a line; what is refused for being too much leaves none, or lines had no end. */
const NOTED = 'sign-in-wrong'

const nameIn = (value: unknown): string =>
  typeof value === 'object' && value !== null && 'name' in value ? String(value.name) : ''

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
    if ('refused' in outcome) {
      if (outcome.refused === NOTED)
        await note({
          who: nameIn(told),
          what: 'sign-in-refused',
          site,
          subject: '',
          address,
          organisationId: await organisationOfName(nameIn(told)),
        })
      return
    }
    const { answer } = outcome
    const { what, subject } = audited({ params, told, answer })
    const who = visitor?.name ?? nameIn(answer)
    const organisationId = visitor?.organisation.id ?? (await organisationOfName(who))
    await note({ who, what, site, subject, address, organisationId })
  }),
)
