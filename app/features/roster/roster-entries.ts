import { isManaged, isOtherModel, STUCK, type AdoptionState } from '#core/adopt'
import type { Stranger } from '#contracts/api'
import type { DeviceId } from '#core/schema'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'
import type { FlagState } from '~/ui/StatusFlag.vue'
import { wordsOfState } from '~/wording/adoption'

function flagOf(state: AdoptionState): FlagState {
  if (state === 'in-sync') return 'full'
  if (state === 'failed') return 'cut'
  if (STUCK.includes(state)) return 'half'
  return state === 'planned' ? 'bare' : 'outline'
}

/** Rows of the roster as they are shown at a time, and which device a serial is most likely meant for. */
export function useRosterEntries(nowMs: Ref<number>) {
  const plan = usePlan()
  const site = useSite()
  const entries = computed(() =>
    (site.roster?.rows ?? []).map((row) => {
      const state = site.stateOf(row, nowMs.value)
      const planned = plan.draft?.devices.find((device) => device.id === row.deviceId)
      return {
        row,
        state,
        words: wordsOfState(state),
        stuck: STUCK.includes(state),
        flag: flagOf(state),
        name: planned?.name ?? row.deviceId,
        model: planned?.model ?? '',
        /** What it says it is, where the plan has another model. */
        saysOther: isOtherModel(row.saysModel, planned?.model ?? '') ? row.saysModel : '',
        /** Serial of a claim that the server has not heard of yet. */
        waiting: site.waitingClaims.get(row.deviceId) ?? '',
        last: row.events.at(-1),
      }
    }),
  )
  const isFree = (deviceId: DeviceId): boolean =>
    entries.value.some(({ row }) => row.deviceId === deviceId && row.serial === null)

  /** Whom it stands for in the lab, or else the first device without a serial of the model that it says it is. */
  function deviceFor({ serial, model }: Stranger): DeviceId {
    const shown = site.lab?.find((device) => device.serial === serial)?.deviceId ?? ''
    if (isFree(shown)) return shown
    const fits = plan.draft?.devices.find(
      (device) => isManaged(device) && isFree(device.id) && !isOtherModel(model, device.model),
    )
    return fits?.id ?? ''
  }
  return { entries, isFree, deviceFor }
}
