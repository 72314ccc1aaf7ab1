import { problem, type Problem } from '#core/util'
import { mediumText, modeText } from '#core/export'
import { linkSpeed } from '#core/cabling'
import {
  connect,
  disconnect,
  isVlanAware,
  portNamed,
  turnedInto,
  type Plan,
  type Medium,
  type PortMode,
} from '#core/model'
import { checkChoice, checkNumber, type Column } from './columns'
import type { PortRow } from './loom-graph'
import { usePlan, type PlanDraft } from '~/stores/plan'

const TYPED = ['access', 'trunk', 'off'] as const
const SPEEDS = ['auto', '10', '100', '1000', '2500', '10000']
const OPTICS: readonly string[] = ['—', '1000BASE-SX', '1000BASE-LX10', '10GBASE-SR', '10GBASE-LR']
export const CABLES: readonly Medium[] = [
  ...(['Cat5e', 'Cat6', 'Cat6A'] as const).flatMap((category) =>
    (['indoor', 'outdoor', 'between'] as const).map((run): Medium => ({
      kind: 'copper',
      category,
      lengthM: 0,
      run,
    })),
  ),
  ...(['OM3', 'OM4', 'OS2'] as const).flatMap((grade) =>
    (['indoor', 'outdoor', 'between'] as const).map((run): Medium => ({
      kind: 'fibre',
      grade,
      lengthM: 0,
      run,
    })),
  ),
]
export const cableNames = CABLES.map((c) => mediumText(c).kind)

/** What a new cable is until somebody says otherwise. */
const NEW_CABLE: Medium = { kind: 'copper', category: 'Cat6', lengthM: 0, run: 'indoor' }

/** VLAN numbers as people list them: `10 20, 30`, or `all`. */
export function readTags(text: string): {
  readonly vids: number[] | 'all'
  readonly problems: readonly Problem[]
} {
  if (text === 'all') return { vids: 'all', problems: [] }
  const words = text.split(/[\s,;]+/).filter((w) => w !== '' && w !== '—')
  return {
    vids: [...new Set(words.map(Number))].sort((a, b) => a - b),
    problems: words.flatMap((w) => checkNumber(w, 1, 4094)).slice(0, 1),
  }
}

/** The columns of the port table, and what typing into them does. */
export function usePortColumns(): readonly Column<PortRow>[] {
  const plan = usePlan()
  const modeOf = (row: PortRow): PortMode =>
    row.device.ports.find((p) => p.id === row.portId)?.mode ?? { mode: 'off' }
  const nameOf = (row: PortRow) =>
    `${row.device.name} port ${row.device.ports.find((p) => p.id === row.portId)?.name ?? row.portId}`
  const isTyped = (row: PortRow) =>
    isVlanAware(row.device) && (TYPED as readonly string[]).includes(modeOf(row).mode)
  const setMode = (row: PortRow, session: string, words: string, mode: PortMode) =>
    plan.edit(words, session, (draft: PlanDraft) => {
      const port = draft.devices.find((d) => d.id === row.device.id)?.ports.find((p) => p.id === row.portId)
      if (port)
        port.mode = {
          ...mode,
          ...(mode.mode === 'trunk' ? { tagged: mode.tagged === 'all' ? 'all' : [...mode.tagged] } : {}),
        } as typeof port.mode
    })
  const portOf = (row: PortRow) => row.device.ports.find((p) => p.id === row.portId)
  const setPort = (
    row: PortRow,
    session: string,
    words: string,
    put: (port: PlanDraft['devices'][number]['ports'][number]) => void,
  ) =>
    plan.edit(words, session, (draft) => {
      const port = draft.devices.find((d) => d.id === row.device.id)?.ports.find((p) => p.id === row.portId)
      if (port) put(port)
    })
  const speeds = computed(() => {
    const index = plan.index
    return new Map(index ? index.plan.links.map((link) => [link.id, linkSpeed(index, link).mbps]) : [])
  })
  function shownSpeed(row: PortRow): string {
    const mbps = row.link ? speeds.value.get(row.link.id) : null
    if (mbps == null) {
      if (portOf(row)?.speedMbps) return `${portOf(row)?.speedMbps} M!`
      return '—'
    }
    if (mbps >= 1000) return `${mbps / 1000} G`
    return `${mbps} M`
  }
  const fixedMode = (row: PortRow): readonly Problem[] =>
    isTyped(row)
      ? []
      : [problem('not-a-mode', '', { text: modeOf(row).mode, choices: 'ports that sort VLANs' })]
  const setMedium = (row: PortRow, session: string, words: string, medium: Medium) =>
    plan.edit(words, session, (draft) => {
      const link = draft.links.find((l) => l.id === row.link?.id)
      if (link) link.medium = { ...medium }
    })

  /** Nothing takes the cable out; a device and its port lays one. */
  function checkFar(row: PortRow, text: string): readonly Problem[] {
    if (!plan.draft || text === '' || text === '—' || text.toLowerCase() === row.far.toLowerCase()) return []
    if (row.link && !['copper', 'fibre'].includes(row.link.medium.kind))
      return [problem('not-a-choice', '', { text, choices: 'cables; this is not one' })]
    const far = portNamed(plan.draft, text)
    if (!far.ok) return far.problems
    const laid = connect(
      row.link ? disconnect(plan.draft, row.link.id) : plan.draft,
      { deviceId: row.device.id, portId: row.portId },
      far.value,
      NEW_CABLE,
    )
    return laid.ok ? [] : laid.problems
  }
  function checkNative(row: PortRow, text: string): readonly Problem[] {
    const mode = modeOf(row)
    if (mode.mode === 'off') return [problem('not-a-mode', '', { text: 'off', choices: 'access, trunk' })]
    if (mode.mode === 'trunk' && ['', '—', 'none'].includes(text)) return []
    if (mode.mode === 'trunk' && mode.tagged !== 'all' && mode.tagged.includes(Number(text)))
      return [problem('tagged-already', '', { text })]
    return [...fixedMode(row), ...checkNumber(text, 1, 4094)]
  }
  function checkTagged(row: PortRow, text: string): readonly Problem[] {
    const mode = modeOf(row)
    const { vids, problems } = readTags(text)
    if (mode.mode !== 'trunk') return vids.length === 0 ? [] : [problem('not-a-trunk', '', { text })]
    return mode.native !== null && vids !== 'all' && vids.includes(mode.native)
      ? [problem('native-already', '', { text: mode.native })]
      : problems
  }

  return [
    { key: 'device', head: 'Device', strong: true, get: (r) => r.device.name },
    {
      key: 'port',
      head: 'Port',
      num: true,
      mono: true,
      width: '48px',
      get: (r) => r.device.ports.find((p) => p.id === r.portId)?.name ?? r.portId,
    },
    {
      key: 'mode',
      head: 'Mode',
      width: '84px',
      get: (r) => modeText(modeOf(r)).mode,
      choices: () => [...TYPED],
      check: (row, text) => [...fixedMode(row), ...checkChoice(text, TYPED)],
      commit: (row, text, session) => {
        const fallback = plan.draft?.networks.find((n) => n.id === row.device.wants)?.vlan ?? 1
        setMode(
          row,
          session,
          `${nameOf(row)}: ${text}`,
          turnedInto(text as (typeof TYPED)[number], modeOf(row), fallback),
        )
      },
    },
    {
      key: 'native',
      head: 'Native',
      num: true,
      mono: true,
      width: '64px',
      get: (r) => modeText(modeOf(r)).native || '—',
      edit: (r) => modeText(modeOf(r)).native,
      check: checkNative,
      commit: (row, text, session) => {
        const mode = modeOf(row)
        const vid = ['', '—', 'none'].includes(text) ? null : Number(text)
        if (mode.mode === 'access' && vid !== null)
          setMode(row, session, `${nameOf(row)}: access ${vid}`, { mode: 'access', vlan: vid })
        if (mode.mode === 'trunk')
          setMode(row, session, `${nameOf(row)}: native ${vid ?? 'none'}`, { ...mode, native: vid })
      },
    },
    {
      key: 'tagged',
      head: 'Tagged',
      mono: true,
      get: (r) => modeText(modeOf(r)).tagged || '—',
      edit: (r) => modeText(modeOf(r)).tagged,
      check: checkTagged,
      commit: (row, text, session) => {
        const mode = modeOf(row)
        const { vids } = readTags(text)
        if (mode.mode === 'trunk')
          setMode(
            row,
            session,
            `${nameOf(row)}: tagged ${vids === 'all' ? vids : vids.join(' ') || 'none'}`,
            { ...mode, tagged: vids },
          )
      },
    },
    {
      key: 'far',
      head: 'Connected to',
      get: (r) => r.far || '—',
      edit: (r) => r.far,
      check: checkFar,
      commit: (row, text, session) => {
        const gone = (now: Plan) => (row.link ? disconnect(now, row.link.id) : now)
        const far = plan.draft && text !== '' && text !== '—' ? portNamed(plan.draft, text) : null
        plan.change(`${nameOf(row)}: ${far ? `to ${text}` : 'cable taken out'}`, session, (now) => {
          if (!far?.ok) return text === '' || text === '—' ? gone(now) : now
          if (row.far.toLowerCase() === text.toLowerCase()) return now
          const laid = connect(
            gone(now),
            { deviceId: row.device.id, portId: row.portId },
            far.value,
            row.link && ['copper', 'fibre'].includes(row.link.medium.kind) ? row.link.medium : NEW_CABLE,
          )
          return laid.ok ? laid.value : now
        })
      },
    },
    {
      key: 'speed',
      head: 'Speed',
      num: true,
      mono: true,
      width: '68px',
      get: (r) => shownSpeed(r),
      edit: (r) => String(portOf(r)?.speedMbps ?? 'auto'),
      choices: () => SPEEDS,
      check: (_, text) => checkChoice(text, SPEEDS),
      commit: (row, text, session) =>
        setPort(
          row,
          session,
          `${nameOf(row)}: speed ${text}`,
          (p) => void (p.speedMbps = text === 'auto' ? null : Number(text)),
        ),
    },
    {
      key: 'cable',
      head: 'Cable',
      get: (r) => (r.link ? mediumText(r.link.medium).kind : '—'),
      choices: () => cableNames,
      check: (row, text) =>
        row.link && ['copper', 'fibre'].includes(row.link.medium.kind)
          ? checkChoice(text, cableNames)
          : [problem('not-a-choice', '', { text, choices: 'cables; this is not one' })],
      commit: (row, text, session) => {
        const kind = CABLES[cableNames.indexOf(text)]
        const lengthM = row.link && 'lengthM' in row.link.medium ? row.link.medium.lengthM : 0
        if (kind) setMedium(row, session, `${nameOf(row)}: ${text}`, { ...kind, lengthM } as Medium)
      },
    },
    {
      key: 'length',
      head: 'm',
      num: true,
      mono: true,
      width: '56px',
      get: (r) => (r.link ? mediumText(r.link.medium).lengthM || '—' : '—'),
      check: (row, text) => {
        if (row.link && 'lengthM' in row.link.medium) return checkNumber(text, 0, 200_000)
        if (text === '—') return []
        return [problem('not-a-choice', '', { text, choices: 'cables; this has no length' })]
      },
      commit: (row, text, session) => {
        if (row.link && 'lengthM' in row.link.medium && text !== '—')
          setMedium(row, session, `${nameOf(row)}: ${text} m`, { ...row.link.medium, lengthM: Number(text) })
      },
    },
    {
      key: 'optic',
      head: 'Light',
      mono: true,
      width: '76px',
      get: (r) => portOf(r)?.optic?.replace('BASE-', ' ') ?? '—',
      edit: (r) => portOf(r)?.optic ?? '—',
      choices: () => OPTICS,
      check: (_, text) => checkChoice(text, OPTICS),
      commit: (row, text, session) =>
        setPort(
          row,
          session,
          `${nameOf(row)}: transceiver ${text}`,
          (p) => void (p.optic = text === '—' ? null : (text as typeof p.optic)),
        ),
    },
  ]
}
