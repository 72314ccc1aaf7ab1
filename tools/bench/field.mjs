// The field's part of the application, without a network.

import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { ROOT } from '../run.mjs'
import { say } from '../say.mjs'
import { openBrowser } from './browser.mjs'
import { line, median } from './measure.mjs'

/** A telephone beside a desk's machine: as Lighthouse's and others' mobile profiles have it. */
const SLOWDOWN = 4

/** What the service worker keeps, gzip, kB. */
function keptKilobytes() {
  const worker = readFileSync(join(ROOT, '.output/public/sw.js'), 'utf8')
  const files = [...worker.matchAll(/"url":"(_nuxt\/[^"]+)"/g)].map(([, file]) => file)
  const sizes = files.map((file) => gzipSync(readFileSync(join(ROOT, '.output/public', file))).length)
  return sizes.reduce((sum, size) => sum + size, 0) / 1000
}

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
  const took = []
  for (let n = 0; n < 5; n++) {
    const page = await context.newPage()
    const devtools = await context.newCDPSession(page)
    await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWDOWN })
    const start = performance.now()
    await page.goto(`${url}/field`)
    await page.getByRole('article').waitFor()
    took.push(performance.now() - start)
    await page.close()
  }
  const opened = median(took)
  line(`opened, processor slowed ${SLOWDOWN} times, median of 5`, opened, 'ms', '< 2000', opened < 2000)
  await browser.close()
}
