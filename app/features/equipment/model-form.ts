import { parseInterface4 } from '#core/address'
import { MODELS } from '#core/queries'
import type { Factory, Model, Plan, PortGroup } from '#core/schema'
import type { PlanDraft } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

/** One group of ports, as texts. */
export interface PortGroupForm {
  names: string
  kind: PortGroup['kind']
  speeds: string
  role: PortGroup['role']
  locked: boolean
  /** What it gives or takes, as one of `POWER_CHOICES`. */
  power: string
  watts: string
  volts: string
}

/** A model, as texts. What it does not hold is kept from the model that is edited. */
export interface ModelForm {
  name: string
  label: string
  kind: Model['kind']
  budget: string
  idle: string
  factory: Factory['kind']
  address: string
  /** The base where it joins another; empty for the same. */
  stationAddress: string
  channel: string
  credentials: Model['credentials']
  stp: boolean
  isolation: NonNullable<Model['isolation']>
  boot: string
  minFirmware: string
  plannedFirmware: string
  accessPoints: string
  switches: string
  inspection: string
  /** Sensitivity by MCS, dBm in 20 MHz, apart by spaces. */
  sensitivity: string
  factorySsid: string
  ports: PortGroupForm[]
}

export const blankPorts = (): PortGroupForm => ({
  names: '1-8',
  kind: 'copper',
  speeds: '10 100 1000',
  role: 'any',
  locked: false,
  power: 'none',
  watts: '',
  volts: '24',
})
export const blankForm = (): ModelForm => ({
  name: '',
  label: '',
  kind: 'switch',
  budget: '',
  idle: '5',
  factory: 'dhcp-client',
  address: '',
  stationAddress: '',
  channel: '0',
  credentials: 'label',
  stp: true,
  isolation: 'access-point',
  boot: '90',
  minFirmware: '',
  plannedFirmware: '',
  accessPoints: '',
  switches: '',
  inspection: '',
  sensitivity: '',
  factorySsid: '',
  ports: [blankPorts()],
})

const CLASSES = [0, 1, 2, 3, 4, 5, 6, 7, 8]
/** Power of a group as one choice: `gives 4` is class 4. */
export const POWER_CHOICES = [
  { value: 'none', title: 'none' },
  ...CLASSES.map((level) => ({ value: `gives ${level}`, title: `gives class ${level}` })),
  ...CLASSES.map((level) => ({ value: `takes ${level}`, title: `takes class ${level}` })),
  { value: 'gives passive', title: 'gives passive' },
  { value: 'takes passive', title: 'takes passive' },
]

function powerChoice({ source, load }: PortGroup): string {
  if (source) return source.standard === 'ieee' ? `gives ${source.class}` : 'gives passive'
  if (load) return load.standard === 'ieee' ? `takes ${load.class}` : 'takes passive'
  return 'none'
}
/** A load's nominal voltage is taken as four thirds of the least it works with, as `loadOf` lays it. */
function voltsText({ source, load }: PortGroup): string {
  if (source?.standard === 'passive') return String(source.volts)
  return load?.standard === 'passive' ? String(Math.round(load.leastV / LEAST_SHARE)) : '24'
}
const LEAST_SHARE = 0.75
const MOST_SHARE = 1.1

const portsForm = (group: PortGroup): PortGroupForm => ({
  names: group.names,
  kind: group.kind,
  speeds: group.speedsMbps.join(' '),
  role: group.role,
  locked: group.locked,
  power: powerChoice(group),
  watts: String(group.source?.standard === 'passive' ? group.source.mostW : (group.load?.typicalW ?? '')),
  volts: voltsText(group),
})

export const formOf = (model: Model): ModelForm => ({
  name: model.name,
  label: model.label,
  kind: model.kind,
  budget: String(model.poeBudgetW ?? ''),
  idle: String(model.idleW),
  factory: model.factory.kind,
  address: 'address' in model.factory ? model.factory.address : '',
  stationAddress: model.factory.kind === 'channel' ? (model.factory.stationAddress ?? '') : '',
  channel: model.factory.kind === 'channel' ? String(model.factory.channel) : '0',
  credentials: model.credentials,
  stp: model.stp,
  isolation: model.isolation ?? 'access-point',
  boot: String(model.bootS),
  minFirmware: model.minFirmware,
  plannedFirmware: model.plannedFirmware,
  accessPoints: String(model.capacity?.accessPoints ?? ''),
  switches: String(model.capacity?.switches ?? ''),
  inspection: String(model.inspectionMbps ?? ''),
  sensitivity: model.sensitivityDbm.join(' '),
  factorySsid: model.factorySsid,
  ports: model.ports.map(portsForm),
})

const numbers = (text: string): number[] =>
  text
    .replaceAll('−', '-')
    .split(/[\s,;/]+/)
    .filter((word) => word !== '')
    .map(Number)

function wrongName(form: ModelForm, taken: ReadonlySet<string>): string {
  if (!/^[A-Za-z0-9][A-Za-z0-9 ._-]{0,39}$/.test(form.name))
    return 'Name: 1 to 40 letters, digits, dots or hyphens.'
  return taken.has(form.name) ? `Name: there is a ${form.name} already.` : ''
}
/** Bounds as the plan has them. */
const MOST = { watts: 100_000, bootS: 86_400, devices: 100_000, mbps: 1_000_000, channel: 64 } as const
const MOST_PORT_GROUPS = 64
const MOST_SPEEDS = 10
const MOST_NAMES = 80

function wrongNumber(form: ModelForm): string {
  const fields: readonly (readonly [name: string, text: string, most: number, isWhole: boolean])[] = [
    ['PoE budget', form.budget, MOST.watts, false],
    ['Own draw', form.idle, MOST.watts, false],
    ['Boot', form.boot, MOST.bootS, false],
    ['Channel knob', form.factory === 'channel' ? form.channel : '', MOST.channel, true],
    ['Manages APs', form.accessPoints, MOST.devices, true],
    ['Manages switches', form.switches, MOST.devices, true],
    ['With inspection', form.inspection, MOST.mbps, true],
  ]
  const wrong = fields.find(
    ([, text, most, isWhole]) =>
      text !== '' &&
      !(Number(text) >= 0 && Number(text) <= most && (!isWhole || Number.isInteger(Number(text)))),
  )
  if (!wrong) return ''
  const [name, text, most, isWhole] = wrong
  return `${name}: ${text} is not a ${isWhole ? 'whole ' : ''}number from 0 to ${most}.`
}
function wrongFactory({ factory, address, stationAddress }: ModelForm): string {
  if (factory === 'dhcp-client') return ''
  const fields = [
    ['Factory address', address],
    ...(factory === 'channel' && stationAddress !== ''
      ? [['Address as a station', stationAddress] as const]
      : []),
  ] as const
  for (const [name, text] of fields) {
    const read = parseInterface4(text)
    if (!read.ok) return `${name}: ${read.problems.map(reasonOf).join('; ')}.`
  }
  return ''
}
/** Kinds that may send a Wi-Fi of their own as they come. */
export const SENDERS: ReadonlySet<Model['kind']> = new Set([
  'gateway',
  'access-point',
  'extender',
  'bridge-radio',
  'modem',
])
const MOST_MCS = 14
function wrongSensitivity({ kind, sensitivity }: ModelForm): string {
  const list = kind === 'bridge-radio' ? numbers(sensitivity) : []
  const isFalling = list.every((dBm, i) => i === 0 || dBm >= (list[i - 1] ?? 0))
  return list.length <= MOST_MCS && list.every((dBm) => dBm >= -120 && dBm <= 0) && isFalling
    ? ''
    : `Sensitivity: up to ${MOST_MCS} levels from -120 to 0 dBm, each as high as the one before or higher.`
}
function wrongPorts({ names, speeds, power, watts, volts }: PortGroupForm): string {
  if (names.trim() === '') return 'Ports: a name or span is needed, for example 1-8.'
  if (names.trim().length > MOST_NAMES) return `Ports: names of ${MOST_NAMES} characters at most.`
  const mbps = numbers(speeds)
  if (mbps.length > MOST_SPEEDS || mbps.some((n) => !Number.isInteger(n) || n < 1 || n > MOST.mbps))
    return `Ports ${names}: ${speeds} are not speeds in Mb/s.`
  if (power.endsWith('passive') && !(Number(volts) >= 1 && Number(volts) <= 54))
    return `Ports ${names}: passive voltage from 1 to 54 V.`
  const needsWatts = power.startsWith('takes') || power === 'gives passive'
  return needsWatts && !(Number(watts) > 0 && Number(watts) <= MOST.watts)
    ? `Ports ${names}: watts are needed.`
    : ''
}

/** Names that a model may not have: those of all others. */
export const takenNames = (plan: Plan, own: string): ReadonlySet<string> =>
  new Set([...MODELS, ...plan.models].map(({ name }) => name).filter((name) => name !== own))

/** The first thing that is wrong, as a sentence; empty where all is right. */
export const wrongIn = (form: ModelForm, taken: ReadonlySet<string>): string =>
  [
    wrongName(form, taken),
    wrongNumber(form),
    wrongFactory(form),
    wrongSensitivity(form),
    form.ports.length > MOST_PORT_GROUPS ? `Ports: ${MOST_PORT_GROUPS} rows at most.` : '',
    ...form.ports.map(wrongPorts),
  ].find((words) => words !== '') ?? ''

function sourceOf({ power, volts, watts }: PortGroupForm, level: number): PortGroup['source'] {
  if (power === 'gives passive') return { standard: 'passive', volts: Number(volts), mostW: Number(watts) }
  return power.startsWith('gives') ? { standard: 'ieee', class: level } : null
}
function loadOf({ power, volts, watts }: PortGroupForm, level: number): PortGroup['load'] {
  const typicalW = Number(watts)
  if (power === 'takes passive')
    return {
      standard: 'passive',
      leastV: Math.max(1, Math.round(Number(volts) * LEAST_SHARE)),
      mostV: Math.round(Number(volts) * MOST_SHARE),
      typicalW,
    }
  return power.startsWith('takes') ? { standard: 'ieee', class: level, typicalW } : null
}
function groupOf(ports: PortGroupForm): PortGroup {
  const level = Number(ports.power.split(' ')[1])
  return {
    names: ports.names.trim(),
    kind: ports.kind,
    speedsMbps: numbers(ports.speeds),
    role: ports.role,
    locked: ports.locked,
    source: sourceOf(ports, level),
    load: loadOf(ports, level),
  }
}
function factoryOf({ factory, address, stationAddress, channel }: ModelForm): Factory {
  if (factory === 'dhcp-client') return { kind: 'dhcp-client' }
  return factory === 'channel'
    ? { kind: 'channel', address, stationAddress: stationAddress || null, channel: Number(channel) || 0 }
    : { kind: factory, address }
}
const capacityOf = ({ accessPoints, switches }: ModelForm): Model['capacity'] =>
  accessPoints === '' && switches === ''
    ? null
    : { accessPoints: Number(accessPoints) || 0, switches: Number(switches) || 0 }

/** The model that a form without faults says; `was` is the one it was made from. */
export const modelFrom = (form: ModelForm, was: Model | undefined): Model => ({
  name: form.name,
  label: form.label || form.name,
  kind: form.kind,
  minFirmware: form.minFirmware,
  plannedFirmware: form.plannedFirmware,
  bootS: Number(form.boot) || 0,
  adoptS: was?.adoptS ?? 180,
  ports: form.ports.map(groupOf),
  poeBudgetW: form.budget === '' ? null : Number(form.budget),
  idleW: Number(form.idle) || 0,
  factory: factoryOf(form),
  credentials: form.credentials,
  lights: was?.lights ?? [],
  stp: form.stp,
  isolation: form.kind === 'access-point' ? form.isolation : null,
  capacity: capacityOf(form),
  inspectionMbps: Number(form.inspection) || null,
  sensitivityDbm: form.kind === 'bridge-radio' ? numbers(form.sensitivity) : [],
  factorySsid: SENDERS.has(form.kind) ? form.factorySsid : '',
})

/** Puts a model into the plan in place of the one of that name; what is of that model follows a new name. */
export function putModel(draft: PlanDraft, model: Model, was: string): void {
  const entry = model as PlanDraft['models'][number]
  const at = draft.models.findIndex(({ name }) => name === was)
  if (at === -1) draft.models.push(entry)
  else draft.models[at] = entry
  if (was === '' || was === model.name) return
  for (const item of [...draft.devices, ...draft.brief.equipment])
    if (item.model === was) item.model = model.name
}
