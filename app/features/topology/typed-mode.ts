import type { PortMode } from '#core/schema'
import { readTags } from './port-columns'
import { checkFace, checkFace6 } from '~/features/uplinks/uplink-columns'

/** The mode of a port as it is typed, field by field. */
export interface TypedMode {
  readonly mode: 'access' | 'trunk' | 'routed' | 'wan' | 'off'
  /** The VLAN of an access port, the native one of a trunk; empty for none. */
  readonly vlan: string
  readonly tagged: string
  readonly address: string
  readonly address6: string
}

const isFace = (text: string) => checkFace(text).length === 0
const isFace6 = (text: string) => text === '' || checkFace6(text).length === 0

function trunk(native: number | null, tagged: string): PortMode | null {
  const { vids, problems } = readTags(tagged)
  return problems.length > 0 ? null : { mode: 'trunk', native, tagged: vids }
}

/** The mode that is typed; null while it cannot be one. */
export function typedMode({ mode, vlan, tagged, address, address6 }: TypedMode): PortMode | null {
  const number = Number(vlan)
  const vid = Number.isInteger(number) && number >= 1 && number <= 4094 ? number : null
  switch (mode) {
    case 'off':
    case 'wan':
      return { mode }
    case 'routed':
      return isFace(address) && isFace6(address6) ? { mode, address, address6: address6 || null } : null
    case 'access':
      return vid === null ? null : { mode, vlan: vid }
    case 'trunk':
      return vlan !== '' && vid === null ? null : trunk(vid, tagged)
  }
}
