import { dirname, relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** Seconds of what uses all the rest: asked of changes of their own alone. */
const SLOW = ['core/diagnose', 'core/remedy', 'core/schedule'].map(here)

/** Who stands nearest to what is changed is asked first, then the quickest: the first that fails ends it. */
class NearestFirst extends BaseSequencer {
  override sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const [changed = ''] = this.ctx.config.related ?? []
    const keyOf = ({ moduleId, project }: TestSpecification) =>
      `${project.name}:${relative(this.ctx.config.root, moduleId)}`
    const durationOf = (file: TestSpecification) =>
      this.ctx.cache.getFileTestResults(keyOf(file))?.duration ?? 0
    const isNear = ({ moduleId }: TestSpecification) => dirname(moduleId) === dirname(changed)
    const asked = files.filter((file) => isNear(file) || !SLOW.includes(dirname(file.moduleId)))
    return Promise.resolve(
      asked.toSorted(
        (one, other) => Number(isNear(other)) - Number(isNear(one)) || durationOf(one) - durationOf(other),
      ),
    )
  }
}

// The tests that `./mast mutants FILE` asks: those of core, and those against the outside. Property tests and the
// kernel would catch more, and take minutes for each mutant.
export default defineConfig({
  resolve: {
    alias: { '#core': here('./core'), '#contracts': here('./contracts'), '#server': here('./server') },
  },
  test: {
    include: ['core/**/*.test.ts', 'tests/reference/**/*.test.ts'],
    testTimeout: 60_000,
    // Core keeps no state in its modules: they are read once for all files.
    isolate: false,
    sequence: { sequencer: NearestFirst },
  },
})
