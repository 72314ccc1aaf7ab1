import { sendersFor, type Sender } from '#core/edit'
import type { Device, Plan } from '#core/schema'

// What an extender, or an access point, could join, and how that is called.

export interface SenderChoice extends Sender {
  readonly title: string
}

const nameIn = (things: readonly { readonly id: string; readonly name: string }[], id: string): string =>
  things.find((one) => one.id === id)?.name ?? id

export const senderWords = (plan: Plan, { deviceId, ssidId }: Sender): string =>
  `${nameIn(plan.devices, deviceId)}, ${nameIn(plan.ssids, ssidId)}`

export const senderChoices = (plan: Plan, device: Pick<Device, 'id' | 'kind'>): SenderChoice[] =>
  sendersFor(plan, device).map((sender) => ({ ...sender, title: senderWords(plan, sender) }))
