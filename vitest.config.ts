import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))
const alias = {
  '#core': here('./core'),
  '#contracts': here('./contracts'),
  '#server': here('./server'),
  '~': here('./app'),
}

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          include: ['core/**/*.test.ts', 'contracts/**/*.test.ts', 'tests/{reference,property}/**/*.test.ts'],
          testTimeout: 60_000,
          // Their modules keep no state: each is read once for all files.
          isolate: false,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'app',
          include: ['tests/{app,boundaries}/**/*.test.ts'],
          testTimeout: 60_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'twin',
          include: ['tests/twin/**/*.test.ts'],
          globalSetup: ['tests/twin/sweep.ts'],
          testTimeout: 300_000,
          hookTimeout: 120_000,
          fileParallelism: false,
          maxConcurrency: 10,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          globalSetup: ['tests/server/global-setup.ts'],
          testTimeout: 60_000,
          hookTimeout: 120_000,
          // Each file has a server and a database of its own.
          maxWorkers: 2,
        },
      },
    ],
  },
})
