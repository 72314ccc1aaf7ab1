import { MODELS } from '#core/queries'
import { describe, expect, it } from 'vitest'
import { blankForm, formOf, modelFrom, putModel, wrongIn } from '../../app/features/equipment/model-form'
import type { PlanDraft } from '../../app/stores/plan'
import { base } from '../plans'

const NONE: ReadonlySet<string> = new Set()

describe('a model as a form', () => {
  it.each(MODELS.map((model) => [model.name, model] as const))('%s comes back as it was', (_name, model) => {
    expect(wrongIn(formOf(model), NONE)).toBe('')
    expect(modelFrom(formOf(model), model)).toEqual(model)
  })

  it('says what is wrong first, and by its name', () => {
    const form = { ...blankForm(), name: 'X1' }
    expect(wrongIn(form, NONE)).toBe('')
    expect(wrongIn({ ...form, name: '' }, NONE)).toContain('Name')
    expect(wrongIn(form, new Set(['X1']))).toContain('there is a X1 already')
    expect(wrongIn({ ...form, budget: 'much' }, NONE)).toContain('PoE budget: much')
    expect(wrongIn({ ...form, factory: 'fixed', address: '192.168.1.300/24' }, NONE)).toContain('Factory')
    // What the plan would refuse is refused here, by its name.
    expect(wrongIn({ ...form, boot: '86401' }, NONE)).toBe('Boot: 86401 is not a number from 0 to 86400.')
    expect(wrongIn({ ...form, inspection: '1.5' }, NONE)).toContain('not a whole number')
    expect(
      wrongIn({ ...form, factory: 'channel', address: '192.168.1.20/24', channel: '65' }, NONE),
    ).toContain('Channel knob')
    const [ports] = form.ports
    const withPorts = (change: Partial<typeof ports>) => ({ ...form, ports: [{ ...ports!, ...change }] })
    expect(wrongIn(withPorts({ speeds: '100 fast' }), NONE)).toContain('not speeds')
    expect(wrongIn(withPorts({ speeds: '1 '.repeat(11) }), NONE)).toContain('not speeds')
    expect(wrongIn(withPorts({ names: '1, '.repeat(30) }), NONE)).toContain('80 characters')
    expect(wrongIn({ ...form, ports: Array.from({ length: 65 }, () => ports!) }, NONE)).toContain('64 rows')
    expect(wrongIn(withPorts({ power: 'takes 4' }), NONE)).toContain('watts are needed')
    expect(wrongIn(withPorts({ power: 'gives passive', watts: '24', volts: '90' }), NONE)).toContain('54 V')
  })

  it('takes what a radio hears by MCS, each level as high as the one before or higher', () => {
    const form = { ...blankForm(), name: 'X1', kind: 'bridge-radio' as const }
    const said = { ...form, sensitivity: '−93 -90, -90', factorySsid: 'x1-setup' }
    expect(wrongIn(said, NONE)).toBe('')
    expect(modelFrom(said, undefined)).toMatchObject({
      sensitivityDbm: [-93, -90, -90],
      factorySsid: 'x1-setup',
    })
    expect(modelFrom({ ...said, kind: 'switch' }, undefined)).toMatchObject({
      sensitivityDbm: [],
      factorySsid: '',
    })
    for (const sensitivity of ['-90 -93', 'low', '-121', '1', '-90 '.repeat(15)])
      expect(wrongIn({ ...form, sensitivity }, NONE)).toContain('Sensitivity')
  })

  it('takes devices and boxes along to a new name', () => {
    const plan = base() as PlanDraft
    const model = modelFrom({ ...blankForm(), name: 'Old' }, undefined)
    putModel(plan, model, '')
    for (const device of plan.devices) device.model = 'Old'
    putModel(plan, { ...model, name: 'New' }, 'Old')
    expect(plan.models.map(({ name }) => name)).toEqual(['New'])
    expect(plan.devices.map((device) => device.model)).toEqual(plan.devices.map(() => 'New'))
  })
})
