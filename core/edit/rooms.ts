// Question: what does a new room say before anybody has said more?
// Method: it stands in the first building, which is made where there is none, under a name that no other room has.
import type { Brief, Building, BuildingId, Plan } from '#core/schema'
import { BLANK_PLACE } from './blanks'
import { freshId } from './propose'

const FIRST_BUILDING: Building = {
  id: 'building' as BuildingId,
  name: 'Main building',
  ...BLANK_PLACE,
}

function freeName({ rooms }: Brief): string {
  const names = new Set(rooms.map(({ name }) => name))
  for (let n = rooms.length + 1; ; n++) if (!names.has(`Room ${n}`)) return `Room ${n}`
}

export function addRoom(plan: Plan): Plan {
  const { brief } = plan
  const [home = FIRST_BUILDING] = brief.buildings
  const room = {
    id: freshId(brief.rooms, 'room'),
    name: freeName(brief),
    buildingId: home.id,
    people: null,
    outline: null,
    readDbm: null,
  }
  return {
    ...plan,
    brief: {
      ...brief,
      buildings: brief.buildings.length === 0 ? [home] : brief.buildings,
      rooms: [...brief.rooms, room],
    },
  }
}
