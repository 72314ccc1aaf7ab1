// Which files of the application the service worker keeps, so that the field's part opens without a server.

/** What is opened on site, and what it loads when that is first asked for. */
const ROOTS = [
  /\/nuxt\/dist\/app\/entry\.js$/,
  /\/app\/pages\/(field|sites\/\[site\])\.vue$/,
  /\/app\/features\/(field-cards|brief|topology|proof)\/\w+Sheet\.vue$/,
  /\/app\/features\/field-cards\/KeptPassphrases\.vue$/,
  /\/app\/shell\/(AccountMenu|ConflictDialog|NextStep|RefusedRecord|StepNotice)\.vue$/,
  /\/app\/ui\/usual-controls\.ts$/,
]

/** Workers are built apart; icons, and what says which build this is, are no part of a bundle. */
const OTHERS = /\/(schedule|layout)\.worker-[\w-]+\.js$|\/builds\/meta\/|\.(png|svg|webmanifest)$/

/**
 * Finds in the build of the client what the roots need: the chunks they are in, with all that these import.
 * @returns a plugin for the build, and whether a file is kept, known when the build is done
 */
export function fieldBundle() {
  const files = new Set()
  const plugin = {
    name: 'field-bundle',
    apply: 'build',
    generateBundle(_options, bundle) {
      const visit = (name) => {
        const chunk = bundle[name]
        if (files.has(name) || chunk?.type !== 'chunk') return
        files.add(name)
        const { importedCss = [], importedAssets = [] } = chunk.viteMetadata ?? {}
        for (const file of [...importedCss, ...importedAssets]) files.add(file)
        for (const next of chunk.imports) visit(next)
      }
      for (const chunk of Object.values(bundle)) {
        const modules = Object.keys(chunk.modules ?? {}).map((id) => id.split('?')[0])
        if (modules.some((id) => ROOTS.some((root) => root.test(id)))) visit(chunk.fileName)
      }
    },
  }
  return { plugin, isKept: (url) => OTHERS.test(`/${url}`) || files.has(url) }
}
