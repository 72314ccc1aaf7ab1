// The field's part of the application, without a network.

/* global document, MutationObserver */

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { ROOT } from '../run.mjs'
import { say } from '../say.mjs'
import { openBrowser } from './browser.mjs'
import { line, median } from './measure.mjs'

/** A telephone beside a desk's machine: as Lighthouse's and others' mobile profiles have it. */
const SLOWDOWN = 4
/** Long enough for a card to be drawn, in which nobody asks the page anything. */
const QUIET_MS = 6000
const OPENINGS = 9

/** What the service worker keeps, gzip, kB. */
function keptKilobytes() {
  const worker = readFileSync(join(ROOT, '.output/public/sw.js'), 'utf8')
  const files = [...worker.matchAll(/"url":"(_nuxt\/[^"]+)"/g)].map(([, file]) => file)
  const sizes = files.map((file) => gzipSync(readFileSync(join(ROOT, '.output/public', file))).length)
  return sizes.reduce((sum, size) => sum + size, 0) / 1000
}

/**
 * In the page: when a card has been drawn, ms since its opening began.
 * Asked from outside for it again and again, a page that is slowed down is busy with the answers alone.
 */
function noteCard() {
  const seen = new MutationObserver(() => {
    if (!document.querySelector('article h2')) return
    seen.disconnect()
    requestAnimationFrame(() => setTimeout(() => performance.mark('card-drawn')))
  })
  seen.observe(document, { childList: true, subtree: true })
}
const drawnAt = () => performance.getEntriesByName('card-drawn')[0]?.startTime

/** How long the installed cards take to open with no server, on a slow telephone. */
export async function benchField(url, cookie) {
  say('\nfield cards without a network, Chromium, processor slowed down')
  const kept = keptKilobytes()
  line('kept for a place without a network, gzip', kept, 'kB', '< 600', kept < 600)
  const browser = await openBrowser()
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const [name, value] = cookie.split(/=(.*)/s)
  await context.addCookies([{ name, value, url }])
  const first = await context.newPage()
  await first.goto(`${url}/sites/gullhaven/field-cards`)
  await first.getByText('Kept on this device').waitFor()
  await first.waitForTimeout(2000)
  await context.setOffline(true)
  await first.close()
  await context.addInitScript(noteCard)
  const took = []
  for (let n = 0; n < OPENINGS; n++) {
    const page = await context.newPage()
    const devtools = await context.newCDPSession(page)
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWDOWN })
    await page.goto(`${url}/field`)
    await page.waitForTimeout(QUIET_MS)
    took.push(await page.evaluate(drawnAt))
    await page.close()
  }
  const opened = median(took)
  line(
    `opened, processor slowed ${SLOWDOWN} times, median of ${OPENINGS}`,
    opened,
    'ms',
    '< 2000',
    opened < 2000,
  )
  await browser.close()
}
