export function browserPath(): string
export const BROWSER_ARGUMENTS: string[]
