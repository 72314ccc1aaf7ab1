import { statfs } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { database } from '#server/platform/database'
import { hearBoth } from '#server/platform/news'
import { hasQueue } from '#server/platform/queue'
import { kindOf } from '#server/repo/installation'

/** Room for uploads and backups below which nothing more should be sent here, bytes. */
const LEAST_FREE = 200_000_000
const PATIENCE_MS = 2000

/** Whether the database answers. */
export const hasDatabase = async (): Promise<boolean> => (await kindOf(database())) !== null

export interface Readiness {
  readonly database: boolean
  readonly news: boolean
  readonly jobs: boolean
  readonly disk: boolean
}

const inTime = (asked: Promise<boolean>): Promise<boolean> =>
  Promise.race([
    asked.catch(() => false),
    new Promise<boolean>((done) => setTimeout(() => done(false), PATIENCE_MS).unref()),
  ])

async function hasRoom(): Promise<boolean> {
  const { bavail, bsize } = await statfs(tmpdir())
  return bavail * bsize > LEAST_FREE
}

/** What this process needs to serve somebody: whoever spreads work over several asks. */
export async function readinessNow(): Promise<Readiness> {
  const [answers, news, jobs, disk] = await Promise.all([
    inTime(hasDatabase()),
    inTime(hearBoth().then(() => true)),
    inTime(hasQueue()),
    inTime(hasRoom()),
  ])
  return { database: answers, news, jobs, disk }
}
