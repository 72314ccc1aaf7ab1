// Question: what must the sockets become at which a new device is plugged in?
// Method: between two devices that sort VLANs, a trunk of what is needed beyond it, with what the device is managed
// in untagged; a host's socket stays, since which of the two is meant is not known.
// Source: common practice, without a published source.
import { indexPlan } from '#core/queries'
import type { DeviceId, Plan, PortMode, PortRef } from '#core/schema'
import { trunkConversions, trunkProposals, type TrunkProposal } from './propose-tags'

const NOTHING_FAILED: ReadonlySet<string> = new Set()

function withModes(plan: Plan, proposals: readonly TrunkProposal[]): Plan {
  if (proposals.length === 0) return plan
  const modeAt = ({ deviceId, portId }: PortRef) =>
    proposals.find(({ port }) => port.deviceId === deviceId && port.portId === portId)?.after
  return {
    ...plan,
    devices: plan.devices.map((device) => ({
      ...device,
      ports: device.ports.map((port) => {
        const mode = modeAt({ deviceId: device.id, portId: port.id })
        return mode ? { ...port, mode } : port
      }),
    })),
  }
}

/**
 * The plan with both ends of a device's cables fit for it: access ports and ports that are off become trunks where
 * they must, and its trunks carry what is needed. Nothing is taken off a trunk, and no other cable changes.
 */
export function fitPorts(plan: Plan, deviceId: DeviceId): Plan {
  const links = plan.links.filter((link) => link.a.deviceId === deviceId || link.b.deviceId === deviceId)
  const ends = links.flatMap((link) => [link.a, link.b])
  const isOwn = ({ port, add }: TrunkProposal) =>
    add.length > 0 && ends.some((end) => end.deviceId === port.deviceId && end.portId === port.portId)
  const index = indexPlan(plan)
  const converted = withModes(plan, trunkConversions(index, NOTHING_FAILED).filter(isOwn))
  const added = trunkProposals(indexPlan(converted), NOTHING_FAILED)
    .filter(isOwn)
    .map((proposal) => ({ ...proposal, after: keepingTags(proposal) }))
  return withModes(converted, added)
}

/** What a trunk carries already, and what it must carry besides. */
function keepingTags({ before, after, add }: TrunkProposal): PortMode {
  if (before.mode !== 'trunk' || before.tagged === 'all' || after.mode !== 'trunk') return after
  return {
    ...after,
    tagged: [...new Set([...before.tagged, ...add])].sort((first, second) => first - second),
  }
}
