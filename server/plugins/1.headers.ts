import { randomBytes } from 'node:crypto'
import firstLinks from '#first-links'
import { settings } from '#server/platform/settings'

// Headers of every page.
// Scripts and styles hold by nonce or from our own origin, never from text; nothing leaves the origin.

const YEAR_S = 365 * 24 * 3600

const policy = (nonce: string) =>
  [
    "default-src 'none'",
    // What reads codes from a camera's picture is WebAssembly of our own origin.
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    "worker-src 'self'",
    // The theme and the editor make their sheets in the page.
    // Under development each part brings its sheet along.
    `style-src 'self' ${import.meta.dev ? "'unsafe-inline'" : `'nonce-${nonce}'`}`,
    // The text editor says so of single elements.
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data:",
    "manifest-src 'self'",
    "font-src 'self'",
    "connect-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ')

const isForCards = (path: string): boolean => /^\/(field|sites\/[^/]+\/field-cards)\b/.test(path)

export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('render:html', (html, { event }) => {
    const nonce = randomBytes(16).toString('base64')
    event.context['nonce'] = nonce
    const mark = (parts: string[]) =>
      parts.map((part) => part.replaceAll(/<(script|style)/g, `<$1 nonce="${nonce}"`))
    html.head = mark(isForCards(event.path) ? [...html.head, firstLinks] : html.head)
    html.bodyPrepend = mark(html.bodyPrepend)
    html.body = mark(html.body)
    html.bodyAppend = mark(html.bodyAppend)
  })
  nitro.hooks.hook('render:response', (response, { event }) => {
    const nonce = String(event.context['nonce'] ?? '')
    response.headers = { ...response.headers, 'content-security-policy': policy(nonce) }
  })
  nitro.hooks.hook('request', (event) => {
    // What is said to one person is nobody else's, and no page of its own.
    if (/^\/api\//.test(event.path))
      setResponseHeaders(event, {
        'cache-control': 'no-store',
        'content-security-policy': "default-src 'none'; frame-ancestors 'none'",
      })
    if (settings().publicUrl?.protocol === 'https:')
      setResponseHeader(event, 'strict-transport-security', `max-age=${YEAR_S}`)
    setResponseHeaders(event, {
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'same-origin',
      'cross-origin-opener-policy': 'same-origin',
      'x-frame-options': 'DENY',
      'permissions-policy': 'camera=(self), microphone=(), geolocation=()',
    })
  })
})
