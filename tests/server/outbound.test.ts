import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest'
import { post } from '#server/platform/outbound'

// What a name leads to is decided by whoever owns it, and can change: it is judged at each connection.

const found = vi.hoisted(() => ({ addresses: [] as string[], asked: [] as string[] }))
vi.mock('node:dns', () => ({
  lookup: (name: string, _options: object, done: (error: null, all: object[]) => void) => {
    found.asked.push(name)
    done(
      null,
      found.addresses.map((address) => ({ address, family: address.includes(':') ? 6 : 4 })),
    )
  },
}))
vi.mock('#server/platform/settings', () => ({ settings: () => ({ webhookHosts: ['127.0.0.1'] }) }))

let server: Server
let port = 0
let reached = 0
beforeAll(async () => {
  server = createServer((_request, response) => {
    reached++
    response.writeHead(204).end()
  })
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  port = (server.address() as AddressInfo).port
})
afterAll(() => {
  server.closeAllConnections()
  server.close()
})
beforeEach(() => {
  found.asked.length = 0
  reached = 0
})

const outcome = async (url: string) => (await post(url, {}, '{}')).outcome

describe('a message to a name', () => {
  it.each([
    ['10.1.2.3'],
    ['127.0.0.1'],
    ['169.254.169.254'],
    ['100.64.1.1'],
    ['::1'],
    ['fd00::5'],
    ['fe80::1'],
    ['::ffff:192.168.1.1'],
    // One good address does not excuse a bad one.
    ['198.51.100.9', '10.0.0.1'],
  ])('that leads to %s is not sent', async (...addresses) => {
    found.addresses = addresses
    expect(await outcome(`https://moved.example:${port}/`)).toBe('not-public')
    expect(found.asked).toEqual(['moved.example'])
    expect(reached).toBe(0)
  })

  it('that whoever runs the installation has allowed is sent, wherever it leads', async () => {
    expect(await post(`http://127.0.0.1:${port}/`, {}, '{}')).toEqual({ outcome: 'taken', status: 204 })
  })

  it('is not sent without TLS, or to an address within, whatever stood there when it was added', async () => {
    expect(await outcome(`http://moved.example:${port}/`)).toBe('not-public')
    expect(await outcome(`https://10.0.0.1:${port}/`)).toBe('not-public')
    expect(found.asked).toEqual([])
  })

  it('is told to be unreachable where nobody listens', async () => {
    expect(await outcome('http://127.0.0.1:9/')).toBe('unreachable')
  })
})
