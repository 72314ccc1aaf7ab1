import { sql } from 'drizzle-orm'
import api from '#server/api/x.get'
export const service = [sql, api]
