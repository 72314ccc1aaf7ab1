// A tone, for eyes that are elsewhere.

let audio: AudioContext | undefined
/** Sounds for a moment. @param hz pitch @param seconds length */
export function sound(hz: number, seconds: number): void {
  audio ??= new AudioContext()
  const tone = audio.createOscillator()
  tone.frequency.value = hz
  tone.connect(audio.destination)
  tone.start()
  tone.stop(audio.currentTime + seconds)
}
