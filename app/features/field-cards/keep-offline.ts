import { MOST_KEPT_PHOTOS, PHOTOS_KEPT } from '~/service-worker/kept-photos'
import { lastFieldSite } from '~/stores/field-site'
import { whenIdle } from '~/stores/idle'
import { usePlan } from '~/stores/plan'
import { useSite } from '~/stores/site'

/** What became of keeping the cards for a place without a network. */
export type Keeping = 'asking' | 'kept' | 'insecure' | 'failed'

/** What reads codes is large and not needed to open the cards: it is fetched when they are kept. */
async function fetchScanner(): Promise<void> {
  const [{ default: wasm }] = await Promise.all([
    import('zxing-wasm/reader/zxing_reader.wasm?url'),
    import('~/ui/ScanDialog.vue'),
  ])
  await fetch(wasm)
}

/** What others have photographed is there without a network too: fetched once, by which the service worker keeps it. */
async function fetchPhotos(sources: readonly string[]): Promise<void> {
  const kept = await caches.open(PHOTOS_KEPT)
  for (const source of sources) if (!(await kept.match(source))) await fetch(source).catch(() => {})
}

/** Registers the service worker and waits until it has all that it keeps. */
async function keep(container: ServiceWorkerContainer): Promise<Keeping> {
  const { active, installing } = await container.register('/sw.js')
  const failed = new Promise<Keeping>((told) =>
    installing?.addEventListener('statechange', () => {
      if (installing.state === 'redundant' && !active) told('failed')
    }),
  )
  return Promise.race([container.ready.then((): Keeping => 'kept'), failed])
}

/**
 * Keeps the field's part of the application on this device, and which site was worked on last.
 * Browsers keep it over HTTPS, or on the machine itself, alone.
 */
export function useKeptOffline() {
  const plan = usePlan()
  const site = useSite()
  const keeping = ref<Keeping>('asking')
  const last = lastFieldSite()
  watch(
    () => plan.slug,
    (slug) => (last.value = slug),
    { immediate: true },
  )
  const keepsPhotos = ref(false)
  watch([keepsPhotos, () => site.photos], ([isOn, photos]) => {
    const sources = photos.flatMap(({ source, isWaiting }) => (isWaiting ? [] : [source]))
    if (isOn) whenIdle(() => void fetchPhotos(sources.slice(-MOST_KEPT_PHOTOS)))
  })
  onMounted(async () => {
    if (!import.meta.env.PROD) return
    const container = 'serviceWorker' in navigator ? navigator.serviceWorker : null
    if (!container) {
      keeping.value = 'insecure'
      return
    }
    keeping.value = await keep(container).catch(() => (container.controller ? 'kept' : 'failed'))
    if (keeping.value !== 'kept') return
    // What waits to be sent is not thrown away when the disk is full.
    await navigator.storage?.persist?.()
    await fetchScanner().catch(() => {})
    keepsPhotos.value = true
  })
  return keeping
}
