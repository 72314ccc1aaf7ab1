import { describe, expect, it } from 'vitest'
import type { SheetEntry, SheetHelp } from '~/shell/sheet'

const SHEETS = import.meta.glob<SheetEntry>('../../app/features/*/sheet.ts', {
  eager: true,
  import: 'default',
})
const HELP = import.meta.glob<SheetHelp>('../../app/features/*/help.ts', { eager: true, import: 'default' })

describe('every sheet', () => {
  it.each(Object.entries(SHEETS))('by %s says what its pictures mean, in ten lines', (file, { key }) => {
    const help = HELP[file.replace('sheet.ts', 'help.ts')]
    expect(help?.sheet).toBe(key)
    expect(help?.lines.length).toBeGreaterThan(0)
    expect(help?.lines.length).toBeLessThanOrEqual(10)
  })
})
