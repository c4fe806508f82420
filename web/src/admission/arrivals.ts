import { create } from 'zustand'

const key = 'arrival-sound'

/** Whether a sound is played when somebody comes to the lobby; kept in this browser. */
export const useArrivalSound = create<{ on: boolean }>(() => ({ on: localStorage.getItem(key) !== 'off' }))

export function setArrivalSound(on: boolean, heard = true) {
  localStorage.setItem(key, on ? 'on' : 'off')
  useArrivalSound.setState({ on })
  if (on && heard) playArrival()
}

/** In milliseconds: people who come close together are one sound. */
const quiet = 2500
let playedAt = -Infinity
let context: AudioContext | null = null

/** Two soft tones, upward. */
export function playArrival() {
  if (useArrivalSound.getState().on) play([523, 784])
}

/** One soft tone, for a message. */
export function playMessage() {
  play([659])
}

function play(tones: readonly number[]) {
  if (performance.now() - playedAt < quiet) return
  playedAt = performance.now()
  context ??= new AudioContext()
  const loudness = context.createGain()
  loudness.connect(context.destination)
  loudness.gain.setValueAtTime(0, context.currentTime)
  for (const [n, frequency] of tones.entries()) {
    const from = context.currentTime + n * 0.16
    const tone = context.createOscillator()
    tone.frequency.value = frequency
    tone.connect(loudness)
    loudness.gain.linearRampToValueAtTime(0.09, from + 0.02)
    loudness.gain.linearRampToValueAtTime(0.001, from + 0.15)
    tone.start(from)
    tone.stop(from + 0.2)
  }
}
