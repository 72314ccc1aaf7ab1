/** As many buildings a plan has at most. */
export const MOST_BUILDINGS = 200
