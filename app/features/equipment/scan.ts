import { freshId } from '#core/edit'
import { readScan } from '#core/ingest'
import type { Equipment } from '#core/schema'
import { problem } from '#core/util'
import { useBriefList } from '~/features/brief/columns'
import { usePlan } from '~/stores/plan'
import { reasonOf } from '~/wording/problems'

type Scan = NonNullable<ReturnType<typeof readScan>>

/**
 * What a hand scanner types, put where it belongs.
 * A serial begins a box, or fills one that waits for its serial; a MAC completes the one before.
 */
export function useScan() {
  const plan = usePlan()
  const { add, change } = useBriefList('equipment')
  const boxes = computed(() => plan.draft?.brief.equipment ?? [])
  const text = ref('')
  const said = ref('')
  const wrong = ref('')

  function completeBox(box: Equipment, { serial, mac }: Scan): string {
    if (!mac) return `${serial} is in the list already`
    change(box.id, '', `MAC ${mac} scanned`, (known) => void (known.mac = mac))
    return `${mac} for ${box.serial}`
  }
  function fillBox(box: Equipment, serial: string, mac: string | null): string {
    change(
      box.id,
      '',
      `serial ${serial} scanned`,
      (waiting) => void Object.assign(waiting, { serial, mac: mac ?? waiting.mac }),
    )
    const device = plan.draft?.devices.find((d) => d.id === box.deviceId)
    return `${serial} for ${device?.name ?? 'a box'}`
  }
  function newBox({ serial, mac }: Scan): string {
    const id = freshId(boxes.value, 'box')
    add(`box ${serial ?? ''} scanned`, { id, model: '', serial: serial ?? '', mac, deviceId: null })
    return `${serial ?? mac} is a new box`
  }
  /** Says where it went. */
  function putAway(scan: Scan): string {
    const { serial, mac } = scan
    const known = serial === null ? boxes.value.at(-1) : boxes.value.find((b) => b.serial === serial)
    if (known) return completeBox(known, scan)
    const waiting = boxes.value.find((b) => b.serial === '')
    return waiting && serial !== null ? fillBox(waiting, serial, mac) : newBox(scan)
  }
  function take(): void {
    const scanned = text.value.trim()
    text.value = ''
    wrong.value = said.value = ''
    if (scanned === '') return
    const read = readScan(scanned)
    if (read) said.value = putAway(read)
    else wrong.value = reasonOf(problem('no-scan', '', { text: scanned.slice(0, 60) }))
  }
  return { text, said, wrong, take }
}
