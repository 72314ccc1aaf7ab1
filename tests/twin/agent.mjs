// Runs inside one namespace: answers on the ports it is given, and probes others when it is told to.
import dgram from 'node:dgram'
import net from 'node:net'
import { networkInterfaces } from 'node:os'
import { createInterface } from 'node:readline'

const { tcp, udp, six: SIX } = JSON.parse(process.argv[2])
const WAIT_MS = 1000
const AT_ONCE = 12

const listening = [
  ...tcp.map((port) => new Promise((done) => {
    const server = net.createServer((socket) => socket.on('error', () => undefined).end())
    server.on('error', done).listen(port, SIX ? '::' : '0.0.0.0', done)
  })),
  // One socket for each address, as servers on machines with several have it: an answer leaves from the address that was asked.
  ...udp.flatMap((port) => Object.values(networkInterfaces()).flat().filter((a) => a.family === 'IPv4' || (SIX && !a.address.startsWith('fe80'))).map(({ address }) => new Promise((done) => {
    const socket = dgram.createSocket(net.isIPv6(address) ? 'udp6' : 'udp4')
    socket.on('message', (text, from) => socket.send(text, from.port, from.address, () => undefined))
    socket.on('error', done).bind(port, address, done)
  }))),
]

const connects = (ip, port) => new Promise((done) => {
  const socket = net.connect({ host: ip, port, family: net.isIPv6(ip) ? 6 : 4 })
  const end = (answer) => {
    socket.destroy()
    done(answer)
  }
  socket.setTimeout(WAIT_MS, () => end(false)).on('connect', () => end(true)).on('error', () => end(false))
})
const echoes = (ip, port) => new Promise((done) => {
  const socket = dgram.createSocket(net.isIPv6(ip) ? 'udp6' : 'udp4')
  const end = (answer) => {
    clearTimeout(timer)
    try { socket.close() } catch { /* closed already */ }
    done(answer)
  }
  const timer = setTimeout(() => end(false), WAIT_MS)
  socket.on('message', () => end(true)).on('error', () => end(false))
  // A datagram that waits for its neighbour's address may be dropped: it is sent again until the time is up.
  const send = () => socket.send('x', port, ip, (error) => error && end(false))
  const again = setInterval(send, WAIT_MS / 4)
  socket.on('close', () => clearInterval(again))
  send()
})

await Promise.all(listening)
console.log('ready')
for await (const line of createInterface({ input: process.stdin })) {
  const targets = JSON.parse(line)
  const answers = []
  // A few at a time, so that a slow machine is not taken for a silent host.
  for (let at = 0; at < targets.length; at += AT_ONCE) {
    answers.push(...(await Promise.all(targets.slice(at, at + AT_ONCE).map(async ({ ip, dial = {} }) => ({
      tcp: await Promise.all(tcp.map((port) => connects(ip, dial[`tcp ${port}`] ?? port))),
      udp: await Promise.all(udp.map((port) => echoes(ip, dial[`udp ${port}`] ?? port))),
    })))))
  }
  console.log(JSON.stringify(answers))
}
