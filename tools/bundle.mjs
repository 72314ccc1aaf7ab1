import { createRequire } from 'node:module'
import { join } from 'node:path'
import { ROOT } from './run.mjs'

const require = createRequire(import.meta.url)

/**
 * Bundles code of ours for Node.js into one file.
 * @param input where it begins, as esbuild takes it: `entryPoints`, or `stdin`
 */
export const bundle = (input, outfile) =>
  require('esbuild').build({
    ...input,
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

/** What the server's threads run. */
export const bundleHeavy = (outfile) =>
  bundle({ entryPoints: [join(ROOT, 'server/heavy/worker.ts')] }, outfile)
