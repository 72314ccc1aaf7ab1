export const inner = 1
