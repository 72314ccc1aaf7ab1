// Which modules of the application travel as one file: what the frame around a site's sheets is made of.
// As many small files as there are shared parts, each waits to be named by another, and is asked for by itself.

const ENTRY = /\/nuxt\/dist\/app\/entry\.js$/
const FRAME = /\/app\/pages\/sites\/\[site\]\.vue$/
/** Of these one module has what several sheets need: whoever needs a part of it would load all of it. */
const SHARED = /\/(core|contracts)\//

/** All that a module imports, without what it imports only when that is first asked for. */
function needsOf(root, getModuleInfo) {
  const found = new Set()
  const visit = (id) => {
    if (found.has(id)) return
    found.add(id)
    for (const next of getModuleInfo(id)?.importedIds ?? []) visit(next)
  }
  if (root) visit(root)
  return found
}

/** For Rollup's `manualChunks`: what the frame needs beyond what every page has. */
export function frameChunk() {
  let frame
  return (id, { getModuleIds, getModuleInfo }) => {
    if (!frame) {
      const ids = [...getModuleIds()]
      const needs = (name) =>
        needsOf(
          ids.find((each) => name.test(each)),
          getModuleInfo,
        )
      const entry = needs(ENTRY)
      frame = new Set([...needs(FRAME)].filter((each) => !entry.has(each) && !SHARED.test(each)))
    }
    return frame.has(id) ? 'frame' : undefined
  }
}
