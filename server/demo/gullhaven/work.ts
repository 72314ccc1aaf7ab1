import { BLANK_WORK } from '#core/edit'
import type { WorkFacts } from '#core/schema'
import { BOAT, LAB, SKERRY, VISIT } from './places'

const WEEKDAYS = [1, 2, 3, 4, 5]

/** Two people, a bench with two ports, short days; the electrician comes in the afternoons. */
export const work = (): WorkFacts => ({
  ...BLANK_WORK,
  startDate: '2026-12-07',
  timeZone: 'UTC',
  people: [
    {
      id: 'rigger',
      name: 'Rigger',
      skills: ['height', 'driving'],
      days: WEEKDAYS,
      from: '08:00',
      to: '17:00',
    },
    {
      id: 'electrician',
      name: 'Electrician',
      skills: ['mains', 'height'],
      days: WEEKDAYS,
      from: '12:00',
      to: '18:00',
    },
  ],
  benchPorts: 2,
  benchPlace: LAB,
  journeys: [
    { id: 'to-boathouse', a: LAB, b: BOAT, minutes: 4 },
    { id: 'to-visitors', a: LAB, b: VISIT, minutes: 2 },
    { id: 'along-the-quay', a: BOAT, b: VISIT, minutes: 4 },
    { id: 'over-the-water', a: LAB, b: SKERRY, minutes: 45 },
    { id: 'from-the-boathouse', a: BOAT, b: SKERRY, minutes: 40 },
  ],
  cutOver: { date: '2026-12-11', from: '13:00', to: '17:00' },
  windLimitMps: 12,
})
