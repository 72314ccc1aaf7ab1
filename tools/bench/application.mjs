// The application as a browser and its server see it.

import { readFileSync } from 'node:fs'
import http from 'node:http'

import { join } from 'node:path'

import { gzipSync } from 'node:zlib'

import { ROOT } from '../run.mjs'
import { say } from '../say.mjs'

import { openBrowser } from './browser.mjs'
import { line, median, quantile } from './measure.mjs'

/**
 * The Loom of a site of 50 devices: how long its layout takes in its own worker, and whether frames are
 * dropped while it is scaled.
 */
export async function benchLoom(url, { largePlan, planToText }) {
  say('\nLoom of 50 devices, Chromium')
  const cookie = await signIn(url, 'Planner', 'chart-and-pencil')
  const plan = { ...largePlan({ switches: 24, portsEach: 12, networks: 12, fixedEach: 4 }) }
  const made = await (
    await fetch(`${url}/api/sites`, {
      method: 'POST',
      headers: { origin: url, 'content-type': 'application/json', cookie },
      body: JSON.stringify({ text: planToText(plan) }),
    })
  ).json()
  const browser = await openBrowser()
  const [name, value] = cookie.split(/=(.*)/s)
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  await context.addCookies([{ name, value, url }])
  const page = await context.newPage()
  const laid = async () => {
    await page.getByRole('group', { name: 'Loom', exact: true }).waitFor()
    return page.evaluate(() => performance.getEntriesByName('loom layout').at(-1).duration)
  }
  const [opened, cold] = [[], []]
  for (let n = 0; n < 5; n++) {
    await page.goto(`${url}/sites/${made.slug}/loom`)
    cold.push(await laid())
    await page.goto(`${url}/sites/${made.slug}/addresses`)
    await page.getByRole('link', { name: 'Loom', exact: true }).click()
    opened.push(await laid())
  }
  line(
    `layout of ${plan.devices.length} devices in its worker, from another sheet, median of 5`,
    median(opened),
    'ms',
    '< 300',
    median(opened) < 300,
  )
  line('  the same as the first page of all', median(cold), 'ms')
  await benchZoom(page)
  await browser.close()
}

/** Whether frames are dropped while the picture is scaled. */
export async function benchZoom(page) {
  await page.getByRole('region', { name: 'Loom picture' }).hover()
  await page.keyboard.down('Control')
  const gaps = page.evaluate(
    () =>
      new Promise((resolve) => {
        const seen = []
        let last = performance.now()
        const tick = (now) => {
          seen.push(now - last)
          last = now
          if (seen.length < 90) requestAnimationFrame(tick)
          else resolve(seen.slice(2))
        }
        requestAnimationFrame(tick)
      }),
  )
  for (let n = 0; n < 40; n++) {
    await page.mouse.wheel(0, n < 20 ? -100 : 100)
    await new Promise((done) => setTimeout(done, 16))
  }
  const frames = await gaps
  line('frames later than 34 ms while it is scaled, of 88', frames.filter((g) => g > 34).length, 'frames')
  line('  the longest gap between two frames', Math.max(...frames), 'ms')
}
export async function signIn(url, who = 'Keeper', password = 'lamp-and-ledger') {
  const reply = await fetch(`${url}/api/sign-in`, {
    method: 'POST',
    headers: { origin: url, 'content-type': 'application/json' },
    body: JSON.stringify({ name: who, password }),
  })
  return reply.headers.get('set-cookie').split(';')[0]
}

/**
 * Reads by 20 clients at once.
 * With a pause they are people with the application open; without one, the server is full.
 */
export async function benchApi(url, cookie) {
  const agent = new http.Agent({ keepAlive: true, maxSockets: 20 })
  const read = (path, times) =>
    new Promise((resolve) => {
      const start = performance.now()
      http
        .get(`${url}/api/${path}`, { agent, headers: { cookie } }, (reply) => {
          reply.resume().on('end', () => {
            if (reply.statusCode === 200) times.push(performance.now() - start)
            resolve()
          })
        })
        .on('error', resolve)
    })
  async function clients(path, each, pauseMs) {
    const times = []
    const client = async () => {
      for (let n = 0; n < each; n++) {
        if (pauseMs > 0) await new Promise((done) => setTimeout(done, pauseMs * (0.5 + Math.random())))
        await read(path, times)
      }
    }
    const start = performance.now()
    await Promise.all(Array.from({ length: 20 }, client))
    return {
      times,
      perSecond: times.length / ((performance.now() - start) / 1000),
      failed: 20 * each - times.length,
    }
  }
  for (const [pauseMs, title] of [
    [100, 'each asking again after some 100 ms'],
    [0, 'each asking again at once, so that the server is full'],
  ]) {
    say(`\nAPI reads, 20 clients, ${title}`)
    for (const path of [
      'sites',
      'sites/gullhaven/plan',
      'sites/gullhaven/roster',
      'sites/gullhaven/proof',
      'sites/gullhaven/revisions',
    ]) {
      await clients(path, 25, 0)
      const { times, perSecond, failed } = await clients(path, 40, pauseMs)
      const p95 = quantile(times, 0.95)
      line(`GET ${path}, 95th percentile`, p95, 'ms', '< 25', p95 < 25)
      say(`${' '.repeat(4)}${perSecond.toFixed(0)} answers a second${failed > 0 ? `, ${failed} FAILED` : ''}`)
    }
  }
  agent.destroy()
}

const kilobytesOf = (scripts) =>
  [...scripts].reduce(
    (sum, path) => sum + gzipSync(readFileSync(join(ROOT, '.output/public', path))).length,
    0,
  ) / 1000

/** Scripts that a page of a new browser loads until something is done; what comes after is not counted. */
async function scriptsUntil(browser, { url, cookie }, path, done) {
  const [name, value] = cookie.split(/=(.*)/s)
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
  await context.addCookies([{ name, value, url }])
  const page = await context.newPage()
  const scripts = new Set()
  let waiting = true
  page.on('response', (response) => {
    if (waiting && response.request().resourceType() === 'script')
      scripts.add(new URL(response.url()).pathname)
  })
  const start = performance.now()
  await page.goto(`${url}${path}`)
  await done(page)
  const tookMs = performance.now() - start
  waiting = false
  await context.close()
  return { scripts, tookMs }
}

/** Interactive: the table answers to a key. */
async function answersToKey(page) {
  await page.getByRole('gridcell', { name: '10.61.6.1', exact: true }).focus()
  await page.keyboard.press('ArrowDown')
}

/** What is loaded ahead, once a page has come to rest, is there. */
async function comesToRest(page) {
  await answersToKey(page)
  await page.waitForTimeout(4000)
}

/** What a browser loads before the first sheet can be used, and how long that takes from a warm server. */
export async function benchPage(url, cookie) {
  say('\nfirst page (Addresses), Chromium, empty cache, loopback')
  const browser = await openBrowser()
  const from = { url, cookie }
  const [ready, first] = [[], new Set()]
  for (let n = 0; n < 7; n++) {
    const { scripts, tookMs } = await scriptsUntil(browser, from, '/sites/gullhaven/addresses', answersToKey)
    ready.push(tookMs)
    for (const path of scripts) first.add(path)
  }
  const kb = kilobytesOf(first)
  line('JavaScript of the first page, gzip', kb, 'kB', '< 400', kb < 400)
  line('until the table answers to a key, median of 7', median(ready), 'ms', '< 1500', median(ready) < 1500)
  const { scripts: rested } = await scriptsUntil(browser, from, '/sites/gullhaven/addresses', comesToRest)
  line(
    'loaded ahead once it has come to rest',
    kilobytesOf([...rested].filter((path) => !first.has(path))),
    'kB',
  )
  for (const sheet of SHEETS) {
    const heading = (page) => page.locator('main h1').first().waitFor()
    const { scripts } = await scriptsUntil(browser, from, `/sites/gullhaven/${sheet}`, heading)
    const more = kilobytesOf([...scripts].filter((path) => !rested.has(path)))
    line(`more for ${sheet}, until it is there`, more, 'kB', '< 60', more < 60)
  }
  await browser.close()
}

/** Sheets by the end of their address. */
const SHEETS = [
  'brief equipment loom cables power wifi bridges aiming run-sheet field-cards uplinks tunnels rules reach',
  'weather files roster prove hand-over diagnose revisions',
].flatMap((names) => names.split(' '))
