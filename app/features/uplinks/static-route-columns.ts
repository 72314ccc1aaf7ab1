import { formatPrefix4, parseIpv4, parsePrefix4 } from '#core/address'
import type { Plan, StaticRoute } from '#core/schema'
import { orNull } from '#core/util'
import { usePlan, type PlanDraft } from '~/stores/plan'
import { asTyped, columnsOver, oneOf, useColumns, whole, type Column, type Put } from '~/ui/columns'

type RouteDraft = PlanDraft['routes'][number]
const ofRoute = columnsOver<StaticRoute, RouteDraft>()
const MOST_METRIC = 999_999_999

/** What routes by a table of its own that a plan can add to. */
export const routersOf = (plan: Plan) => plan.devices.filter(({ kind }) => kind === 'gateway')
/** The prefix without the host bits that somebody may have typed. */
export const prefixText = (text: string): string => {
  const prefix = orNull(parsePrefix4(text))
  return prefix ? formatPrefix4(prefix) : text
}

const COLUMNS = [
  ofRoute({
    key: 'device',
    head: 'Gateway',
    read: (route, plan) => plan.devices.find(({ id }) => id === route.deviceId)?.name ?? route.deviceId,
    choices: (_, plan) => routersOf(plan).map(({ name }) => name),
    parse: (text, _, plan) => oneOf(routersOf(plan).map(({ name }) => name))(text),
    write: (route, name, draft) =>
      void (route.deviceId = draft.devices.find((device) => device.name === name)?.id ?? route.deviceId),
    words: (text) => `of ${text}`,
  }),
  ofRoute({
    key: 'prefix',
    head: 'To',
    mono: true,
    read: ({ prefix }) => prefix,
    parse: asTyped(parsePrefix4),
    write: (route, text) => void (route.prefix = prefixText(text)),
    words: (text) => `to ${text}`,
  }),
  ofRoute({
    key: 'via',
    head: 'Next hop',
    mono: true,
    read: ({ via }) => via,
    parse: asTyped(parseIpv4),
    write: (route, text) => void (route.via = text),
    words: (text) => `by ${text}`,
  }),
  ofRoute({
    key: 'metric',
    head: 'Metric',
    num: true,
    mono: true,
    read: ({ metric }) => String(metric),
    parse: whole(0, MOST_METRIC),
    write: (route, metric) => void (route.metric = metric),
    words: (text) => `metric ${text}`,
  }),
]

/** Static routes of the gateways. */
export function useStaticRouteColumns(): readonly Column<StaticRoute>[] {
  const plan = usePlan()
  const put: Put<StaticRoute, RouteDraft> = (row, session, words, recipe) =>
    plan.edit(`static route: ${words}`, session, (draft) => {
      const route = draft.routes.find(({ id }) => id === row.id)
      if (route) recipe(route, draft)
    })
  return useColumns(COLUMNS, put)
}
