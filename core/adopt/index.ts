export {
  adoptionState,
  isManaged,
  isOtherModel,
  judgeRequest,
  PROGRESS_TYPES,
  SILENCE_LIMIT_MS,
  STEPS,
  stepsDone,
  STUCK,
} from './state'
export type { AdoptionEvent, AdoptionState, Claim, ProgressType, RefusalReason } from './state'
export { benchLines, channelAddress } from './staging-bench'
export type { BenchLine } from './staging-bench'
