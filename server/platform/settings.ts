/** What the environment says, read once. A missing needed value stops the start with its name. */
export interface Settings {
  readonly databaseUrl: string
  readonly sessionPassword: string
  readonly selfUrl: string
  readonly demo: boolean
  /** Lab seconds that pass in one real second. */
  readonly labSpeed: number
  readonly silenceLimitMs: number
}

function needed(name: string): string {
  const value = process.env[name]
  if (!value) throw new Error(`the environment variable ${name} is not set`)
  return value
}

function numberFrom(name: string, otherwise: number): number {
  const value = Number(process.env[name] ?? otherwise)
  if (!Number.isFinite(value) || value <= 0)
    throw new Error(`the environment variable ${name} is not a positive number`)
  return value
}

let read: Settings | undefined

export function settings(): Settings {
  read ??= {
    databaseUrl: needed('DATABASE_URL'),
    sessionPassword: needed('NUXT_SESSION_PASSWORD'),
    selfUrl:
      process.env['MAST_SELF_URL'] ??
      `http://127.0.0.1:${process.env['NITRO_PORT'] ?? process.env['PORT'] ?? '3000'}`,
    demo: process.env['MAST_DEMO'] === '1',
    labSpeed: numberFrom('MAST_LAB_SPEED', 30),
    silenceLimitMs: numberFrom('MAST_SILENCE_LIMIT_MS', 300_000),
  }
  return read
}
