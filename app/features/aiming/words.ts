import { beamWidthDeg, sideLobeDeg, type AimVerdict } from '#core/radio'

const minus = (text: string): string => text.replace('-', '−')
export const wholeDbm = (dBm: number): string => minus(`${Math.round(dBm)} dBm`)
export const degrees = (value: number): string => minus(`${value.toFixed(1)}°`)

/** As it is spoken: "minus 54". */
export const spokenWords = (dBm: number): string => `${dBm < 0 ? 'minus ' : ''}${Math.abs(Math.round(dBm))}`

/** How far a level is from what is computed. */
export function distanceWords(dBm: number, expectedDbm: number): string {
  const missing = Math.round(expectedDbm - dBm)
  if (missing > 0) return `${missing} dB to go`
  return missing === 0 ? 'as computed' : `${-missing} dB above what is computed`
}

/** What a highest reading says, and what to try. @param gainDbi of the antenna that is turned */
export function verdictWords({ kind, missingDb }: AimVerdict, gainDbi: number): string {
  const missing = `${Math.round(missingDb)} dB too low`
  const lobe = sideLobeDeg(gainDbi) ?? beamWidthDeg(gainDbi)
  switch (kind) {
    case 'as-computed':
      return 'As computed. Fix it, read once more, and keep that.'
    case 'side-lobe':
      return (
        `${missing}: a side lobe is likelier than something in the way. Sweep ${degrees(lobe)} to either side, ` +
        'then up and down, slowly; then let the far end do the same.'
      )
    case 'obstructed':
      return (
        `${missing}: something in the way is likelier than a side lobe. Look along the path for trees, roofs and ` +
        'railings; compare polarization, channel and width at both ends; let the far end sweep.'
      )
  }
}

interface Fixed {
  readonly compass: string
  readonly tilt: string
  readonly torque: string
  readonly note: string
  /** What the far end reads; null where it is not known. */
  readonly farDbm: number | null
}
/** How it was left, as the note of a result. */
export function fixedWords({ compass, tilt, torque, note, farDbm }: Fixed): string {
  const parts = [
    compass && `compass ${compass}°`,
    tilt && `tilt ${minus(tilt)}°`,
    torque && `fixed with ${torque} Nm`,
    farDbm !== null && `the far end reads ${wholeDbm(farDbm)}`,
  ].filter(Boolean)
  return [parts.join('; '), note.trim()].filter(Boolean).join('. ')
}
