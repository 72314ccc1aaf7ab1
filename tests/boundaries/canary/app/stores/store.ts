export const store = 1
