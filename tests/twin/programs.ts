// Programs that Able Mast writes files for, as the tests run them.
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, it } from 'vitest'
import { saySkipped } from './why-not'
import { run } from './shell'

const FOLDERS = [...(process.env['PATH'] ?? '').split(':'), '/usr/sbin', '/sbin']
const isThere = (program: string) => FOLDERS.some((folder) => existsSync(join(folder, program)))

/** A test that needs a program; where that is not there, or does not work, it is skipped and says so. */
export function needing(program: string, works = true) {
  const missing = !isThere(program) || !works
  const why = isThere(program) ? 'it cannot be used here' : 'it is not installed'
  if (missing) saySkipped(`what ${program} does`, why)
  return it.skipIf(missing)
}

/** What a program says of a file; empty where it has nothing against it. */
export const against = (program: string, args: readonly string[]): Promise<string> =>
  run(program, [...args]).then(
    () => '',
    (error: { stdout?: string; stderr?: string; message: string }) =>
      `${error.stdout ?? ''}${error.stderr ?? ''}` || error.message,
  )

/** A folder for one test file's own files, removed after it. */
export function ownFolder() {
  const folder = mkdtempSync(join(tmpdir(), 'mast-files-'))
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  return {
    folder,
    /** Writes a file; its path. */
    kept: (name: string, text: string): string => {
      const path = join(folder, name)
      writeFileSync(path, text)
      return path
    },
  }
}

/** unbound without a folder, a user or a file of its own on the machine. */
export const UNBOUND_ALONE = [
  'server:',
  '  directory: ""',
  '  chroot: ""',
  '  username: ""',
  '  pidfile: ""',
  '  use-syslog: no',
  '',
].join('\n')
