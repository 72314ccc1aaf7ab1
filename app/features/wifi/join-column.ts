// Which access point a device has joined by radio, if it is not on a cable.
import { joinedTo, setJoined } from '#core/edit'
import { problem, refuse, type Result } from '#core/util'
import type { Device, Plan } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { reasons, type Column } from '~/ui/columns'
import { senderChoices, senderWords } from '~/wording/senders'

/** What stands where nothing is joined: an access point is on a cable, if it is on anything. */
function noneOf({ links }: Plan, { id, kind }: Device): string {
  if (kind === 'extender') return 'nothing'
  const isCabled = links.some(
    ({ medium, a: first, b: second }) =>
      medium.kind !== 'wifi' && (first.deviceId === id || second.deviceId === id),
  )
  return isCabled ? 'a cable' : '—'
}

function joined(plan: Plan, device: Device, text: string): Result<Plan> {
  if (text === noneOf(plan, device)) return setJoined(plan, device.id, null)
  const choices = senderChoices(plan, device)
  const sender = choices.find(({ title }) => title === text)
  if (sender) return setJoined(plan, device.id, sender)
  const offered = [noneOf(plan, device), ...choices.map(({ title }) => title)].join('; ')
  return refuse(problem('not-a-choice', '', { text, choices: offered }))
}

export function useJoinColumn<Row extends { readonly device: Device }>(head: string): Column<Row> {
  const plan = usePlan()
  const wanted = (device: Device, text: string): Result<Plan> =>
    plan.draft ? joined(plan.draft, device, text) : refuse(problem('no-plan', ''))
  const read = ({ device }: Row): string => {
    if (!plan.draft) return ''
    const to = joinedTo(plan.draft, device.id)
    return to ? senderWords(plan.draft, to) : noneOf(plan.draft, device)
  }
  const choices = ({ device }: Row): string[] =>
    plan.draft
      ? [noneOf(plan.draft, device), ...senderChoices(plan.draft, device).map(({ title }) => title)]
      : []
  return {
    key: 'joins',
    head,
    wraps: true,
    get: read,
    choices,
    check: ({ device }, text) => reasons(wanted(device, text)),
    commit: ({ device }, text, session) =>
      plan.change(`${device.name}: joins ${text}`, session, (before) => {
        const after = joined(before, device, text)
        return after.ok ? after.value : before
      }),
  }
}
