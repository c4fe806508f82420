import { media } from '../media/engine'

/** The browser can capture a screen. */
export const canCapture = 'mediaDevices' in navigator && 'getDisplayMedia' in navigator.mediaDevices

/** Chosen before entry, to be shown as soon as one is inside. */
let brought: MediaStream | null = null

/** Lets the reader choose what to enter with. Call inside a click. */
export async function bringScreen(): Promise<boolean> {
  dropBrought()
  brought = await media.pickScreen()
  return brought !== null
}

export function dropBrought() {
  brought?.getTracks().forEach((track) => track.stop())
  brought = null
}

/** What was chosen, for once. */
export function takeBrought(): MediaStream | null {
  const stream = brought
  brought = null
  return stream
}
