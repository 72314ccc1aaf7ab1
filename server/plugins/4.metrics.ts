import { createServer } from 'node:http'
import type { H3Event } from 'h3'
import { collectDefaultMetrics, Counter, Histogram, Registry } from 'prom-client'
import { routeKeyFor } from '#server/access'
import { settings } from '#server/platform/settings'

// What Prometheus reads, on a port of its own that no proxy passes on; by route as it is listed, not as it was asked.

/** Seconds; most answers take a few thousandths, and what takes 10 s is a fault. */
const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10]
const LABELS = ['route', 'status'] as const

export default defineNitroPlugin((nitro) => {
  const { metricsPort } = settings()
  if (metricsPort === null) return
  const registry = new Registry()
  collectDefaultMetrics({ register: registry })
  const answers = new Counter({
    name: 'mast_answers_total',
    help: 'Answers by route and status',
    labelNames: LABELS,
    registers: [registry],
  })
  const took = new Histogram({
    name: 'mast_answer_seconds',
    help: 'How long answers took, by route; streams of news are not counted',
    labelNames: ['route'],
    buckets: BUCKETS,
    registers: [registry],
  })
  const began = new WeakMap<H3Event, number>()
  nitro.hooks.hook('request', (event) => void began.set(event, performance.now()))
  nitro.hooks.hook('afterResponse', (event) => {
    const route = routeKeyFor(event.method, event.path.split('?')[0] ?? '') ?? 'other'
    answers.inc({ route, status: String(event.node.res.statusCode) })
    const startMs = began.get(event)
    if (startMs !== undefined && !route.endsWith('/news'))
      took.observe({ route }, (performance.now() - startMs) / 1000)
  })
  const server = createServer((request, response) => {
    if (request.url !== '/metrics') return void response.writeHead(404).end()
    registry.metrics().then(
      (text) => response.writeHead(200, { 'content-type': registry.contentType }).end(text),
      () => response.writeHead(500).end(),
    )
  })
  server.listen(metricsPort, '127.0.0.1')
  nitro.hooks.hook('close', () => void server.close())
})
