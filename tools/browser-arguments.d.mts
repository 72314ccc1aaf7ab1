export const BROWSER_ARGUMENTS: string[]
