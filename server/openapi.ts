import { z } from 'zod'
import { ANSWER_SCHEMAS, type AnswerName } from '#contracts/answers'
import * as api from '#contracts/api'
import { leaseNoticeSchema } from '#contracts/bootstrap'
import { SITES_PAGE } from '#contracts/limits'
import { PLAN_VERSION } from '#core/format'
import { planSchema } from '#core/schema'
import { ACCESS, isForTokens } from '#server/access'

// What programs may ask, as OpenAPI 3.1: from the list of routes and from the schemas by which bodies are checked.

const told = { ...api, leaseNoticeSchema }

/** What each body is checked by; routes that are not listed take none. */
export const BODIES: Readonly<Record<string, keyof typeof told>> = {
  'POST /api/sites': 'importSiteSchema',
  'PATCH /api/sites/:site/plan': 'savePlanSchema',
  'POST /api/sites/:site/restore': 'restoreSchema',
  'POST /api/sites/:site/archive': 'archiveSchema',
  'POST /api/sites/:site/claims': 'claimSchema',
  'POST /api/sites/:site/claims/:serial/replace': 'replaceSchema',
  'POST /api/sites/:site/claim-list': 'claimListSchema',
  'POST /api/sites/:site/levels': 'levelSchema',
  'POST /api/sites/:site/ticks': 'tickSchema',
  'POST /api/sites/:site/steps': 'stepRecordSchema',
  'POST /api/sites/:site/photos': 'photoSchema',
  'POST /api/sites/:site/proof/ask-lab': 'askLabSchema',
  'POST /api/sites/:site/proof/results': 'recordResultSchema',
  'POST /api/sites/:site/runs': 'startRunSchema',
  'POST /api/sites/:site/leases': 'leaseNoticeSchema',
}

/** What is answered: one thing, or a list of such things. Routes that are not listed answer with something else. */
const ANSWERS: Readonly<Record<string, AnswerName | readonly [AnswerName]>> = {
  'GET /api/sites': ['SiteLine'],
  'GET /api/fleet': ['FleetSite'],
  'POST /api/sites': 'SiteSummary',
  'GET /api/sites/:site/plan': 'PlanAt',
  'PATCH /api/sites/:site/plan': 'PlanAt',
  'GET /api/sites/:site/revisions': ['RevisionLine'],
  'GET /api/sites/:site/revisions/:revision': 'Revision',
  'POST /api/sites/:site/restore': 'PlanAt',
  'GET /api/sites/:site/roster': 'Roster',
  'POST /api/sites/:site/claims': 'Roster',
  'DELETE /api/sites/:site/claims/:serial': 'Roster',
  'POST /api/sites/:site/claims/:serial/replace': 'Roster',
  'POST /api/sites/:site/claim-list': 'Roster',
  'GET /api/sites/:site/lab': ['LabDevice'],
  'GET /api/sites/:site/levels': ['RadioLevel'],
  'POST /api/sites/:site/levels': ['RadioLevel'],
  'GET /api/sites/:site/ticks': ['Tick'],
  'POST /api/sites/:site/ticks': ['Tick'],
  'GET /api/sites/:site/steps': ['StepRecord'],
  'POST /api/sites/:site/steps': ['StepRecord'],
  'GET /api/sites/:site/photos': ['StepPhoto'],
  'POST /api/sites/:site/photos': ['StepPhoto'],
  'DELETE /api/sites/:site/photos/:photo': ['StepPhoto'],
  'GET /api/sites/:site/keys': ['TunnelKey'],
  'GET /api/sites/:site/passphrases': ['Passphrase'],
  'GET /api/sites/:site/proof': 'Proof',
  'POST /api/sites/:site/proof/ask-lab': 'Proof',
  'POST /api/sites/:site/proof/results': 'Proof',
  'GET /api/sites/:site/runs': ['RunLine'],
  'POST /api/sites/:site/runs': ['RunLine'],
  'GET /api/sites/:site/runs/:run': 'Run',
  'DELETE /api/sites/:site/runs/:run': ['RunLine'],
}
/** What is answered in another form than JSON, or in several. */
const FORMS: Readonly<Record<string, Readonly<Record<string, object>>>> = {
  'GET /api/sites/:site/news': { 'text/event-stream': {} },
  'GET /api/sites/:site/photos/:photo': { 'image/jpeg': {} },
  'GET /api/sites/:site/export/:file': {
    'application/json': { schema: { $ref: '#/components/schemas/Plan' } },
    'text/csv': {},
  },
}

const jsonOf = (schema: object) => ({ content: { 'application/json': { schema } } })

/** A schema as JSON Schema 2020-12, which OpenAPI 3.1 takes as it is. */
function described(zod: z.ZodType, io: 'input' | 'output') {
  const { $schema: _draft, ...schema } = z.toJSONSchema(zod, { io, unrepresentable: 'any' })
  return schema
}

function bodyOf(key: string) {
  const name = BODIES[key]
  if (name === undefined) return {}
  return { requestBody: { required: true, ...jsonOf(described(told[name] as z.ZodType, 'input')) } }
}

const referTo = (name: string) => ({ $ref: `#/components/schemas/${name}` })
function answerOf(key: string) {
  const content = FORMS[key]
  if (content) return { content }
  const answer = ANSWERS[key]
  if (answer === undefined) return jsonOf({ type: 'object' })
  return jsonOf(typeof answer === 'string' ? referTo(answer) : { type: 'array', items: referTo(answer[0]) })
}

const refusal = (description: string) => ({
  description,
  ...jsonOf(referTo('Refusal')),
})
const REFUSALS = {
  '400': refusal('The body or the path is not as it should be; each problem says where.'),
  '401': refusal('The token is not known, was ended, or is too old.'),
  '403': refusal('Whoever the token is of may not, or the token may not.'),
  '404': refusal('It is not there, or not for this token.'),
  '409': refusal('It does not fit what is there by now, as a plan of another revision.'),
}

/** The one question that is asked page by page. */
const AFTER = {
  name: 'after',
  in: 'query',
  description: `Slug after which it goes on: ${SITES_PAGE} sites are told at once, by their slugs.`,
  schema: { type: 'string' },
}

function operationOf(key: string, path: string) {
  const names = [...path.matchAll(/:(\w+)/g)].map(([, name = '']) => name)
  return {
    operationId: key.replaceAll(/[^A-Za-z]+/g, '-').toLowerCase(),
    parameters: [
      ...names.map((name) => ({ name, in: 'path', required: true, schema: { type: 'string' } })),
      ...(key === 'GET /api/sites' ? [AFTER] : []),
    ],
    ...bodyOf(key),
    responses: { '200': { description: 'Done, or what was asked for.', ...answerOf(key) }, ...REFUSALS },
  }
}

function paths() {
  const made: Record<string, Record<string, object>> = {}
  for (const key of Object.keys(ACCESS)) {
    const [method = '', path = ''] = key.split(' ')
    if (!isForTokens(method, path)) continue
    const called = path.replaceAll(/:(\w+)/g, '{$1}')
    made[called] = { ...made[called], [method.toLowerCase()]: operationOf(key, path) }
  }
  return made
}

const REFUSAL = {
  type: 'object',
  required: ['problems'],
  properties: {
    problems: {
      type: 'array',
      items: {
        type: 'object',
        required: ['code', 'place', 'values'],
        properties: { code: { type: 'string' }, place: { type: 'string' }, values: { type: 'object' } },
      },
    },
  },
}

export const openApi = {
  openapi: '3.1.0',
  info: {
    title: 'Able Mast',
    version: String(PLAN_VERSION),
    description:
      'What programs may ask. Make a token under Your account and send it as Authorization: Bearer.',
  },
  servers: [{ url: '/' }],
  security: [{ token: [] }],
  paths: paths(),
  components: {
    securitySchemes: { token: { type: 'http', scheme: 'bearer' } },
    schemas: {
      Refusal: REFUSAL,
      Plan: described(planSchema, 'output'),
      ...Object.fromEntries(
        Object.entries(ANSWER_SCHEMAS).map(([name, schema]) => [name, described(schema, 'output')]),
      ),
    },
  },
}
