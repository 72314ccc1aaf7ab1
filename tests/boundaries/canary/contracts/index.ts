import { drizzle } from 'drizzle-orm/postgres-js'
import { inner } from '#core/address/inner'
export const contract = [drizzle, inner]
