// Levels that are heard: spoken where the browser speaks, else as tones.
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { spokenWords } from './words'
import { sound } from '~/ui/tone'

export type Voice = 'silent' | 'spoken' | 'tone'

const EVERY_MS = 1800
const TONE_S = 0.15
/** Pitch of the faintest level, and how it rises: an octave in 40 dB. */
const LOWEST_HZ = 220
const OCTAVE_DB = 40
const FAINTEST_DBM = -100

/** Whether the browser has a voice of its own; without one nothing would be heard. */
const canSpeak = (): boolean =>
  'speechSynthesis' in globalThis && globalThis.speechSynthesis.getVoices().length > 0

function speak(dBm: number): void {
  const words = new SpeechSynthesisUtterance(spokenWords(dBm))
  words.lang = 'en'
  words.rate = 1.2
  // The newest level counts: what was to be said of older ones is dropped.
  globalThis.speechSynthesis.cancel()
  globalThis.speechSynthesis.speak(words)
}

const soundLevel = (dBm: number) => sound(LOWEST_HZ * 2 ** ((dBm - FAINTEST_DBM) / OCTAVE_DB), TONE_S)

/** Lets a level be heard again and again; null is silence. Browsers know their voices only after a while. */
export function useSpokenLevel(level: () => number | null, voice: () => Voice) {
  const hasVoice = ref(canSpeak())
  if ('speechSynthesis' in globalThis)
    useEventListener(globalThis.speechSynthesis, 'voiceschanged', () => (hasVoice.value = canSpeak()))
  useIntervalFn(() => {
    const dBm = level()
    if (dBm === null || voice() === 'silent') return
    if (voice() === 'spoken' && hasVoice.value) speak(dBm)
    else soundLevel(dBm)
  }, EVERY_MS)
  return { hasVoice }
}
