import { cpSync, readdirSync, readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { join } from 'node:path'
import vuetify from 'vite-plugin-vuetify'
import { fieldBundle, frameChunk } from './tools/field-bundle.mjs'
import { bundleHeavy } from './tools/bundle.mjs'

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url))

/** A folder of a feature with a `sheet.ts` is a page of a site: its component is the `…Sheet.vue` beside it. */
function sheetPages() {
  const features = here('./app/features')
  return readdirSync(features).flatMap((folder) => {
    const files = readdirSync(join(features, folder))
    const component = files.find((file) => file.endsWith('Sheet.vue'))
    if (!files.includes('sheet.ts') || !component) return []
    const entry = readFileSync(join(features, folder, 'sheet.ts'), 'utf8')
    const [, key = ''] = /^ {2}key: '([a-z-]+)',$/m.exec(entry) ?? []
    return [{ name: `sheet-${key}`, path: key, file: join(features, folder, component) }]
  })
}

/** A stage of the engine that nobody asks for is left out: defining one does nothing by itself. */
const UNASKED_STAGES = { manualPureFunctions: ['defineStage'] }

/** What the service worker keeps. */
const field = fieldBundle()

export default defineNuxtConfig({
  compatibilityDate: '2026-05-01',
  telemetry: false,
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', 'nuxt-auth-utils', '@vite-pwa/nuxt'],
  // The application is a single page behind a sign-in: nothing is rendered on the server.
  ssr: false,
  srcDir: 'app/',
  serverDir: 'server/',
  alias: { '#core': here('./core'), '#contracts': here('./contracts'), '#server': here('./server') },
  // Our own code is imported by name, so that who uses what can be read and checked.
  imports: { scan: false },
  components: { dirs: [] },
  // Of the library's own look nothing but its components' is used: no classes for every margin and colour.
  css: ['~/theme/fonts.css', 'vuetify/styles/core', '~/theme/chart-paper.css'],
  app: {
    head: {
      title: 'Able Mast',
      htmlAttrs: { lang: 'en' },
      meta: [
        { name: 'viewport', content: 'width=device-width, initial-scale=1' },
        { name: 'theme-color', content: '#F5F0E4' },
      ],
      link: [
        { rel: 'icon', type: 'image/svg+xml', href: '/mast.svg' },
        { rel: 'apple-touch-icon', href: '/mast-192.png' },
        { rel: 'manifest', href: '/manifest.webmanifest' },
      ],
    },
  },
  // Field cards register it: nobody else loads what is kept for a place without a network.
  pwa: {
    strategies: 'injectManifest',
    srcDir: 'service-worker',
    filename: 'sw.ts',
    client: { registerPlugin: false },
    registerWebManifestInRouteRules: true,
    manifest: {
      name: 'Able Mast field cards',
      short_name: 'Able Mast',
      description: 'Steps, values and readings of a site, also without a network',
      id: '/field',
      start_url: '/field',
      display: 'standalone',
      background_color: '#F5F0E4',
      theme_color: '#F5F0E4',
      icons: [
        { src: '/mast-192.png', sizes: '192x192', type: 'image/png' },
        { src: '/mast-512.png', sizes: '512x512', type: 'image/png' },
        { src: '/mast-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
      ],
    },
    injectManifest: {
      globPatterns: ['_nuxt/**/*.{js,css,woff2,json}', 'mast*.{svg,png}'],
      // Letters beyond Western Europe come from the network, or from the device's own fonts.
      globIgnores: ['**/*-latin-ext-*'],
      manifestTransforms: [
        (entries) => ({
          manifest: [
            ...entries.filter(({ url }) => field.isKept(url)),
            // The page itself, of the same build as its parts.
            { url: '/field', revision: String(Date.now()), size: 0 },
          ],
        }),
      ],
    },
  },
  build: { transpile: ['vuetify'] },
  // Sheets are fetched when somebody is about to open one: the first page is not slowed by all the others.
  // A part that cannot be fetched: `app/plugins/missing-parts.ts`.
  experimental: {
    emitRouteChunkError: 'manual',
    // What it would tell of other builds is found out by a part that is missing.
    appManifest: false,
    defaults: { nuxtLink: { prefetchOn: { visibility: false, interaction: true } } },
  },
  postcss: { plugins: { cssnano: false } },
  auth: { loadStrategy: 'none' },
  // The cookie is only sent over TLS unless told otherwise;
  // `mast` tells so, since it serves the loopback address.
  runtimeConfig: {
    session: {
      name: 'mast',
      password: '',
      maxAge: 12 * 3600,
      cookie: { sameSite: 'strict', httpOnly: true, secure: true },
    },
  },
  typescript: {
    typeCheck: false,
    strict: true,
    tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true, verbatimModuleSyntax: true } },
  },
  nitro: {
    compressPublicAssets: true,
    virtual: { '#first-links': () => `export default ${JSON.stringify(field.firstLinks())}` },
    typescript: { tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
    hooks: {
      async compiled(nitro) {
        await bundleHeavy(join(nitro.options.output.serverDir, 'heavy.mjs'))
        cpSync(here('./server/db/migrations'), join(nitro.options.output.serverDir, 'migrations'), {
          recursive: true,
        })
      },
    },
  },
  vite: {
    worker: { format: 'es', rollupOptions: { treeshake: UNASKED_STAGES } },
    build: { rollupOptions: { treeshake: UNASKED_STAGES } },
    optimizeDeps: {
      include: ['immer', 'fast-json-patch', 'papaparse', 'zod', 'vuetify'],
    },
  },
  hooks: {
    async 'build:before'() {
      await bundleHeavy(here('./.nuxt/heavy.mjs'))
    },
    // A page fetches its own parts; those of all others would be in their way, most of all on a telephone.
    'build:manifest'(manifest) {
      for (const part of Object.values(manifest)) part.prefetch = false
    },
    'pages:extend'(pages) {
      const site = pages.find((page) => page.path === '/sites/:site()')
      site?.children?.push(...sheetPages())
    },
    'vite:extendConfig'(config, { isClient }) {
      if (isClient) {
        config.plugins?.push(field.plugin)
        config.build!.rollupOptions!.output = {
          ...(config.build!.rollupOptions!.output as object),
          manualChunks: frameChunk(),
          onlyExplicitManualChunks: true,
        }
      }
      config.plugins?.push(vuetify({ autoImport: true }))
    },
  },
})
