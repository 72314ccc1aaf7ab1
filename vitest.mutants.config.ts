import { relative } from 'node:path'
import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** Seconds of what uses all the rest: asked of changes of their own folder alone. */
const SLOW = [
  'core/diagnose/',
  'core/edit/first-plan.test',
  'core/filter/anomalies.test',
  'core/findings/',
  'core/remedy/',
  'core/schedule/',
  'core/wifi/',
].map(here)

/** Who stands nearest to what is changed is asked first, then the quickest: the first that fails ends it. */
class NearestFirst extends BaseSequencer {
  override sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const folderOf = (file: string) => relative(this.ctx.config.root, file).split('/', 2).join('/')
    const changed = new Set((this.ctx.config.related ?? []).map(folderOf))
    const keyOf = ({ moduleId, project }: TestSpecification) =>
      `${project.name}:${relative(this.ctx.config.root, moduleId)}`
    const durationOf = (file: TestSpecification) =>
      this.ctx.cache.getFileTestResults(keyOf(file))?.duration ?? 0
    const isNear = ({ moduleId }: TestSpecification) => changed.has(folderOf(moduleId))
    const asked = files.filter((file) => isNear(file) || !SLOW.some((slow) => file.moduleId.startsWith(slow)))
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
    // It asks the cases of `findings.test.ts` once more, all in one test.
    exclude: ['core/findings/kinds.test.ts'],
    testTimeout: 60_000,
    // Core keeps no state in its modules: they are read once for all files.
    isolate: false,
    sequence: { sequencer: NearestFirst },
  },
})
