import { boolean, integer, jsonb, pgEnum, pgTable, text } from 'drizzle-orm/pg-core'
import type { LabFault, LabSign } from '#core/simulator'
import { sites } from './plans'

export const power = pgEnum('power', ['off', 'starting', 'on'])

/** The stand-in devices on the lab's shelf. */
export const labDevices = pgTable('lab_devices', {
  serial: text('serial').primaryKey(),
  siteId: integer('site_id')
    .notNull()
    .references(() => sites.id, { onDelete: 'cascade' }),
  boardSerial: text('board_serial').notNull(),
  label: text('label').notNull(),
  model: text('model').notNull(),
  firmware: text('firmware').notNull(),
  factory: boolean('factory').notNull(),
  power: power('power').notNull().default('off'),
  /** What its lights and its own page show. */
  sign: text('sign').$type<LabSign>().notNull().default('none'),
  plugDeviceId: text('plug_device_id').notNull(),
  plugPortId: text('plug_port_id').notNull(),
  /** Device of the plan that it stands for; empty for a spare. */
  deviceId: text('device_id').notNull().default(''),
})

/** What the lab built wrong, hidden from everyone who asks it. */
export const labFaults = pgTable('lab_faults', {
  siteId: integer('site_id')
    .primaryKey()
    .references(() => sites.id, { onDelete: 'cascade' }),
  fault: jsonb('fault').$type<LabFault>().notNull(),
})
