/** Whether the database is there and of this program's version. */
export const readiness = { isReady: false }
