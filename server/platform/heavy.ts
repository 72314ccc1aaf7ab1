import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { Piscina } from 'piscina'
import type { Questions } from '#server/heavy/questions'
import { describeError, log } from './log'
import { refused } from './route'
import { settings } from './settings'

// Threads for questions that may take long; each question has so much time and room, and no more.

const THREADS = 2
const MOST_WAITING = 200
const MOST_MEGABYTES = 768
const IDLE_MS = 60_000

/** Beside the built server's entry, or where it is built under development. */
function workerFile(): string {
  const beside = join(dirname(process.argv[1] ?? '.'), 'heavy.mjs')
  return existsSync(beside) ? beside : join(process.cwd(), '.nuxt/heavy.mjs')
}

let threads: Piscina | undefined

function pool(): Piscina {
  threads ??= new Piscina({
    filename: workerFile(),
    minThreads: 1,
    maxThreads: THREADS,
    maxQueue: MOST_WAITING,
    idleTimeout: IDLE_MS,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEGABYTES },
  })
  return threads
}

/**
 * Asks a question in a thread of its own.
 * @throws Refused where it takes more time or room than there is, or too many wait already
 */
export async function askHeavy<Name extends keyof Questions>(
  question: Name,
  ...told: Parameters<Questions[Name]>
): Promise<Awaited<ReturnType<Questions[Name]>>> {
  try {
    const signal = AbortSignal.timeout(settings().heavyMs)
    return (await pool().run({ question, told }, { signal })) as Awaited<ReturnType<Questions[Name]>>
  } catch (error) {
    log.warn({ question, error: describeError(error) }, 'a question was too heavy')
    throw refused(503, 'too-heavy')
  }
}

export async function closeHeavy(): Promise<void> {
  await threads?.destroy()
  threads = undefined
}
