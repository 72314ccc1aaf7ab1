import pino from 'pino'

/** Logs to standard error. Secrets and the values of database parameters never reach it. */
export const log = pino(
  {
    level: process.env['MAST_LOG'] ?? 'warn',
    redact: {
      paths: [
        'password',
        '*.password',
        'authorization',
        '*.authorization',
        'cookie',
        '*.cookie',
        '*.parameters',
        '*.params',
        '*.query',
        '*.detail',
      ],
      remove: true,
    },
  },
  pino.destination(2),
)

/** What may be said of an error: its kind, its first line without parameters, its code and where it arose. */
export function describeError(error: unknown): {
  readonly kind: string
  readonly message: string
  readonly code: string
  readonly stack: string
} {
  if (!(error instanceof Error)) return { kind: typeof error, message: 'not an Error', code: '', stack: '' }
  const cause = error.cause instanceof Error ? error.cause : error
  const code = 'code' in cause ? String(cause.code) : ''
  const message = error.message.startsWith('Failed query')
    ? 'a database query failed'
    : (cause.message.split('\n')[0] ?? '')
  const stack = (error.stack ?? '')
    .split('\n')
    .filter((line) => line.trim().startsWith('at '))
    .slice(0, 8)
    .join('\n')
  return { kind: error.name, message, code, stack }
}
