import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LabDevice, Roster } from '#contracts/api'
import { adoptionState } from '#core/adopt'
import { firstPlan, type SiteWishes } from '#core/edit'
import { makeSerial } from '#core/queries'
import { client, codesOf, eventually, signedIn, startApp, type App, type Client } from './harness'

const OFFICE: SiteWishes = {
  name: 'Own lab',
  supernet: '10.40.0.0/16',
  country: 'NO',
  desks: 4,
  rooms: 1,
  accessPoints: 1,
  guests: 0,
  uplinks: 1,
  behindRouter: false,
}
let app: App
let rigger: Client
let shelf: readonly LabDevice[]
const SITE = '/api/sites/gullhaven'
beforeAll(async () => {
  app = await startApp()
  rigger = await signedIn(app, 'rigger')
  shelf = (await rigger<LabDevice[]>('GET', `${SITE}/lab`)).body
})
afterAll(async () => {
  await app.stop()
})

const onShelf = (label: string) => shelf.find((d) => d.label.startsWith(label)) as LabDevice
const roster = async () => (await rigger<Roster>('GET', `${SITE}/roster`)).body
const rowOf = async (id: string) =>
  (await roster()).rows.find(({ deviceId }) => deviceId === id) as Roster['rows'][number]
async function stateOf(deviceId: string): Promise<string> {
  const { rows, silenceLimitMs, nowMs } = await roster()
  const row = rows.find((r) => r.deviceId === deviceId)
  return row ? adoptionState(row.claim, row.events, nowMs, silenceLimitMs) : 'none'
}
const claim = (serial: string, deviceId: string) => rigger('POST', `${SITE}/claims`, { serial, deviceId })
const release = (serial: string) => rigger('DELETE', `${SITE}/claims/${serial}`)
const replaceBy = (serial: string, next: string) =>
  rigger('POST', `${SITE}/claims/${serial}/replace`, { serial: next })
const power = (serial: string, action = 'power-on') => rigger('POST', `${SITE}/lab/power`, { serial, action })
const comesTo = (deviceId: string, state: string) =>
  eventually(
    () => stateOf(deviceId),
    (s) => s === state,
  )

describe('the lab’s devices, over the same HTTP as real ones', () => {
  it('one that is claimed goes to in sync, reporting each step of RFC 8572', async () => {
    await power(onShelf('Skerry switch').serial)
    await comesTo('skerry-switch', 'in-sync')
    const row = (await roster()).rows.find((r) => r.deviceId === 'skerry-switch')
    const told = row?.events.map((e) => (e.kind === 'progress' ? e.type : e.kind)) ?? []
    // Its firmware is older than planned, so it loads the planned one, reboots and asks a second time.
    expect(told).toEqual([
      'lease',
      'asked',
      'bootstrap-initiated',
      'parsing-initiated',
      'parsing-complete',
      'boot-image-initiated',
      'boot-image-installed-rebooting',
      'asked',
      'bootstrap-initiated',
      'parsing-initiated',
      'parsing-complete',
      'config-initiated',
      'config-complete',
      'bootstrap-complete',
    ])
    expect(row?.events[0]).toMatchObject({ address: expect.stringMatching(/^10\.61\.0\.1\d\d$/) })
    const device = (await rigger<LabDevice[]>('GET', `${SITE}/lab`)).body.find(
      (d) => d.serial === row?.serial,
    )
    expect(device).toMatchObject({ firmware: '2.8.1', factory: false, power: 'on' })
  })

  it('one that nobody claimed is a stranger, and goes on as soon as it is claimed', async () => {
    const { serial } = onShelf('Boathouse AP')
    await power(serial)
    await eventually(roster, (roster) =>
      roster.strangers.some(
        (stranger) =>
          stranger.serial === serial &&
          stranger.model === 'A2X' &&
          stranger.events.some((e) => e.kind === 'refused' && e.reason === 'unclaimed'),
      ),
    )
    expect((await claim(serial, 'boat-ap')).status).toBe(200)
    await comesTo('boat-ap', 'in-sync')
    expect((await roster()).strangers.map((s) => s.serial)).not.toContain(serial)
    await release(serial)
  })

  it('one claimed by its board number waits for the product serial', async () => {
    const { boardSerial } = onShelf('Boathouse AP')
    await claim(boardSerial, 'boat-ap')
    expect(await stateOf('boat-ap')).toBe('wrong-serial')
    await release(boardSerial)
  })

  it('one with old firmware is refused until it is updated by hand', async () => {
    const { serial } = onShelf('Spare A2X, old')
    await claim(serial, 'boat-ap')
    await power(serial)
    await comesTo('boat-ap', 'firmware-old')
    await power(serial, 'update')
    await comesTo('boat-ap', 'in-sync')
    await release(serial)
  })

  it('one of another model than planned is refused, and says what it is', async () => {
    const { serial } = onShelf('Spare A2X, old')
    const usual = (await rowOf('visit-ap')).serial ?? ''
    expect((await replaceBy(usual, serial)).status).toBe(200)
    await power(serial, 'reset')
    await comesTo('visit-ap', 'wrong-model')
    // The plan has an A2 there; what it says of itself is told, before its firmware is judged.
    expect((await rowOf('visit-ap')).saysModel).toBe('A2X')
    expect((await replaceBy(serial, usual)).status).toBe(200)
    expect(await stateOf('visit-ap')).toBe('claimed')
  })

  it('one that is not in factory state takes a lease and is silent, until it is reset', async () => {
    const { serial } = onShelf('Spare A2X, used')
    await claim(serial, 'boat-ap')
    await power(serial)
    await comesTo('boat-ap', 'not-factory')
    await power(serial, 'reset')
    await comesTo('boat-ap', 'in-sync')
    await release(serial)
  })
})

describe('a site of one’s own', () => {
  it('has simulated devices for what hangs on its gateway, once each, and they come in sync', async () => {
    const planner = await signedIn(app, 'planner')
    const first = firstPlan(OFFICE)
    if (!first.ok) throw new Error(JSON.stringify(first.problems))
    const plan = first.value
    const made = await planner<{ slug: string }>('POST', '/api/sites', { text: JSON.stringify(plan) })
    const site = `/api/sites/${made.body.slug}`
    const fill = async () => (await rigger<LabDevice[]>('POST', `${site}/lab/shelf`, {})).body
    const [all, again] = [await fill(), await fill()]
    expect(again.map(({ serial }) => serial)).toEqual(all.map(({ serial }) => serial))
    expect(new Set(all.map(({ deviceId }) => deviceId)).size).toBe(all.length)
    expect(all.map(({ deviceId }) => deviceId)).not.toContain('gateway')
    const [box] = all.filter(({ deviceId }) =>
      plan.devices.some((d) => d.id === deviceId && d.kind === 'switch'),
    )
    const asks = async (of: string) =>
      (await rigger<Roster>('GET', `${of}/roster`)).body.strangers.some(
        ({ serial }) => serial === box?.serial,
      )
    await rigger('POST', `${site}/lab/power`, { serial: box?.serial, action: 'power-on' })
    await eventually(() => asks(site), Boolean)
    expect(await asks(SITE)).toBe(false)
    await rigger('POST', `${site}/claims`, { serial: box?.serial, deviceId: box?.deviceId })
    await eventually(
      async () => {
        const { rows, nowMs } = (await rigger<Roster>('GET', `${site}/roster`)).body
        const row = rows.find(({ deviceId }) => deviceId === box?.deviceId)
        return row ? adoptionState(row.claim, row.events, nowMs) : 'none'
      },
      (reached) => reached === 'in-sync',
    )
  })
})

describe('claims', () => {
  it.each([
    ['GH-7A05', 'not-a-serial'],
    ['GH-7A05-K5RX', 'wrong-check'],
  ])('of %s are refused', async (serial, code) => {
    const reply = await claim(serial, 'boat-ap')
    expect([reply.status, codesOf(reply)]).toEqual([400, [code]])
  })
  it('need a device of the plan, a free serial and a free device', async () => {
    const fresh = makeSerial('GH', 'FRESH01')
    expect(codesOf(await claim(fresh, 'desks'))).toEqual(['no-such-device'])
    expect(codesOf(await claim(fresh, 'gateway'))).toEqual(['device-claimed'])
    expect(codesOf(await claim(onShelf('Skerry switch').serial, 'boat-ap'))).toEqual(['serial-claimed'])
    expect(codesOf(await release(fresh))).toEqual(['no-such-claim'])
  })
  it('that are given up are remembered, and another box takes the place in one step', async () => {
    const [first, second, third] = ['PAST001', 'PAST002', 'PAST003'].map((body) =>
      makeSerial('GH', body),
    ) as [string, string, string]
    await claim(first, 'boat-ap')
    const before = await rowOf('boat-ap')
    // A serial that serves elsewhere is refused, and the first box stays.
    const taken = await replaceBy(first, (await rowOf('gateway')).serial ?? '')
    expect([taken.status, codesOf(taken)]).toEqual([409, ['serial-claimed']])
    expect(await rowOf('boat-ap')).toEqual(before)
    expect((await replaceBy(first, second)).status).toBe(200)
    const after = await rowOf('boat-ap')
    expect(after.serial).toBe(second)
    expect(after.past.at(-1)).toMatchObject({ serial: first, releasedBy: 'Rigger' })
    expect(codesOf(await replaceBy(first, third))).toEqual(['no-such-claim'])
    await release(second)
    expect((await rowOf('boat-ap')).past.at(-1)).toMatchObject({ serial: second })
  })
  it('that come twice are made once', async () => {
    const fresh = makeSerial('GH', 'FRESH04')
    const first = await claim(fresh, 'boat-ap')
    const again = await claim(fresh, 'boat-ap')
    expect([first.status, again.status, await stateOf('boat-ap')]).toEqual([200, 200, 'claimed'])
    await release(fresh)
  })
  it('pasted as a list are taken whole or not at all', async () => {
    const fresh = makeSerial('GH', 'FRESH02')
    const list = (csv: string) => rigger('POST', `${SITE}/claim-list`, { csv })
    const bad = await list(`serial,device\n${fresh},Boathouse AP\nGH-1111-1111,boat-ap`)
    expect((bad.body as { problems: { place: string }[] }).problems.map((p) => p.place)).toEqual([
      'row 3, column "serial"',
    ])
    expect(codesOf(await list(`${fresh},boat-ap\n${makeSerial('GH', 'FRESH03')},gateway`))).toEqual([
      'device-claimed',
    ])
    expect(await stateOf('boat-ap')).toBe('planned')
    expect((await list(`serial,device\n${fresh},Boathouse AP`)).status).toBe(200)
    expect(await stateOf('boat-ap')).toBe('claimed')
    await release(fresh)
  })
})

describe('news', () => {
  it('tell of a claim while one watches', async () => {
    const { name, password } = { name: 'Keeper', password: 'lamp-and-ledger' }
    const cookie =
      (await client(app)('POST', '/api/sign-in', { name, password })).headers
        .get('set-cookie')
        ?.split(';')[0] ?? ''
    const stop = new AbortController()
    const stream = await fetch(`${app.url}${SITE}/news`, { headers: { cookie }, signal: stop.signal })
    const reader = stream.body?.getReader()
    let heard = ''
    const listening = (async () => {
      for (;;) {
        const part = await reader?.read()
        if (!part || part.done) return
        heard += new TextDecoder().decode(part.value)
      }
    })().catch(() => undefined)
    await rigger('POST', `${SITE}/proof/ask-lab`, { revision: 1 })
    await eventually(
      async () => heard,
      (text) => text.includes('"topic":"proof"'),
    )
    stop.abort()
    await listening
    expect(stream.headers.get('content-type')).toContain('text/event-stream')
  })
})
