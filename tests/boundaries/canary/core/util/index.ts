import { readFileSync } from 'node:fs'
export const base = readFileSync
