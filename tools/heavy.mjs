import { createRequire } from 'node:module'
import { join } from 'node:path'
import { ROOT } from './run.mjs'

const require = createRequire(import.meta.url)

/** Builds what the server's threads run, as one file. */
export const buildHeavy = (outfile) =>
  require('esbuild').build({
    entryPoints: [join(ROOT, 'server/heavy/worker.ts')],
    alias: {
      '#core': join(ROOT, 'core'),
      '#server': join(ROOT, 'server'),
      '#contracts': join(ROOT, 'contracts'),
    },
    bundle: true,
    // Some packages' other entry is of a module format that no bundler can follow.
    mainFields: ['module', 'main'],
    format: 'esm',
    platform: 'node',
    outfile,
    logLevel: 'error',
  })
