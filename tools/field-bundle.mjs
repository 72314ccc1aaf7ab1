// Which files of the application the service worker keeps, so that the field's part opens without a server.

/** What is opened on site, and what it loads when that is first asked for. */
const ROOTS = [
  /\/nuxt\/dist\/app\/entry\.js$/,
  /\/app\/pages\/(field|sites\/\[site\])\.vue$/,
  /\/app\/features\/(field-cards|brief|topology|proof)\/\w+Sheet\.vue$/,
  /\/app\/features\/field-cards\/(ChangedValues|KeptPassphrases|StepDispute|WaitCountdown)\.vue$/,
  /\/app\/shell\/(AccountMenu|ConflictDialog|FindingsPanel|NextStep|RefusedRecord|StepNotice)\.vue$/,
  /\/app\/ui\/(scaled-jpeg|usual-controls)\.ts$/,
]

/** Workers are built apart; icons, and what says which build this is, are no part of a bundle. */
const OTHERS = /\/(schedule|layout)\.worker-[\w-]+\.js$|\/builds\/meta\/|\.(png|svg|webmanifest)$/

/** Without which no card is drawn: the frame of a site, and the cards. */
const FRAME = /\/app\/pages\/sites\/\[site\]\.vue$/
const FIRST = [FRAME, /\/app\/features\/field-cards\/FieldCardsSheet\.vue$/]
const ENTRY = ROOTS[0]

/** Chunks of a build that hold one of these modules, with all that they import. */
function filesFrom(bundle, roots) {
  const files = new Set()
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
    if (modules.some((id) => roots.some((root) => root.test(id)))) visit(chunk.fileName)
  }
  return files
}

/** What such a door passes on is imported by whoever uses it, not by all who go through the door. */
const DOOR = /\/core\/[^/]+\/index\.ts$|\/date-fns\/index\.js$/

/** Modules that one imports, one through the other, and itself. */
function importedBy(root, { getModuleIds, getModuleInfo }) {
  const all = new Set()
  const visit = (id) => {
    if (all.has(id) || DOOR.test(id)) return
    all.add(id)
    for (const next of getModuleInfo(id)?.importedIds ?? []) visit(next)
  }
  for (const id of getModuleIds()) if (root.test(id)) visit(id)
  return all
}

/**
 * Every sheet has the frame of a site around it: what that imports is one file, since each file that is asked for
 * takes a telephone some 20 ms.
 * @returns the name of a module's chunk, as `manualChunks` wants it
 */
export function frameChunk() {
  let frame
  let entry
  return (id, graph) => {
    frame ??= importedBy(FRAME, graph)
    entry ??= importedBy(ENTRY, graph)
    return frame.has(id) && !entry.has(id) ? 'frame' : undefined
  }
}

/** What a page's head says of a file that is needed at once. */
function linkTo(file) {
  if (file.endsWith('.css')) return `<link rel="stylesheet" crossorigin href="/${file}">`
  return file.endsWith('.js') ? `<link rel="modulepreload" as="script" crossorigin href="/${file}">` : ''
}

/**
 * Finds in the build of the client what the roots need: the chunks they are in, with all that these import.
 * @returns a plugin for the build, and, known when the build is done: whether a file is kept, and the links by which
 *   a page has at once what the cards need, instead of one part after the other
 */
export function fieldBundle() {
  let files = new Set()
  let links = ''
  const plugin = {
    name: 'field-bundle',
    apply: 'build',
    generateBundle(_options, bundle) {
      files = filesFrom(bundle, ROOTS)
      const entry = filesFrom(bundle, [ENTRY])
      const first = [...filesFrom(bundle, FIRST)].filter((file) => !entry.has(file))
      links = first.map(linkTo).join('')
    },
  }
  return { plugin, isKept: (url) => OTHERS.test(`/${url}`) || files.has(url), firstLinks: () => links }
}
