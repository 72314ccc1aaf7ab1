/** The one place that asks what time it is. */
export const now = (): Date => new Date()
