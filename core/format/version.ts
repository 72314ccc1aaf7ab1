/** What a plan's document calls itself. */
export const PLAN_FORMAT = 'able-mast-plan'
/** Raised when an older reader would misunderstand the document. */
export const PLAN_VERSION = 18
