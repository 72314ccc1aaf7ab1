export const rows = 1
