import { subscribe } from 'node:diagnostics_channel'
import type { Server } from 'node:http'

/** Longer than the 60 s for which proxies keep an idle connection: who asks must be the first to close it. */
const KEPT_MS = 75_000

export default defineNitroPlugin(() => {
  subscribe('http.server.request.start', (message) => {
    const { server } = message as { server: Server }
    server.keepAliveTimeout = KEPT_MS
  })
})
