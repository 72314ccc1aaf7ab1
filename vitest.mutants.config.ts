import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

// The tests that `./mast mutants FILE` asks: those of core, and those against the outside. Property tests and the
// kernel would catch more, and take minutes for each mutant.
export default defineConfig({
  resolve: {
    alias: { '#core': here('./core'), '#contracts': here('./contracts'), '#server': here('./server') },
  },
  test: {
    include: ['core/**/*.test.ts', 'tests/reference/**/*.test.ts'],
    testTimeout: 60_000,
  },
})
