/** A page that never rests does not keep what waits for that waiting for longer, ms. */
const LATEST_MS = 500
/** Where the browser does not say when it rests. */
const SOON_MS = 50

/** Does something once what is on its way to the screen is there. */
export function whenIdle(work: () => void): void {
  if ('requestIdleCallback' in globalThis) requestIdleCallback(work, { timeout: LATEST_MS })
  else setTimeout(work, SOON_MS)
}
