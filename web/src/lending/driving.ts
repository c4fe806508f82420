import type { DriveInput } from '../contract.generated'
import { sendDriving } from '../live/connection'

/** What moves and presses somebody else's screen: gathered for a moment, so that it stays within what the server takes. */
export class Driving {
  /** Milliseconds between two sendings. */
  private static readonly beat = 40
  private static readonly mostAtOnce = 40

  private readonly exhibit: number
  private waiting: DriveInput[] = []
  private timer: ReturnType<typeof setTimeout> | undefined
  private sentAt = -Infinity
  private readonly keys = new Set<string>()
  private readonly buttons = new Set<number>()

  constructor(exhibit: number) {
    this.exhibit = exhibit
  }

  move(x: number, y: number) {
    const move = { ...none, is: 'move' as const, x: within(x), y: within(y) }
    // Only where it is now counts, as long as nothing was pressed on the way.
    if (this.waiting.at(-1)?.is === 'move') this.waiting[this.waiting.length - 1] = move
    else this.put(move)
    this.send()
  }

  /** A button that is so already is not told again. */
  press(button: number, down: boolean) {
    if (down ? this.buttons.has(button) : !this.buttons.has(button)) return
    if (down) this.buttons.add(button)
    else this.buttons.delete(button)
    this.put({ ...none, is: 'button', button, down })
    this.send()
  }

  key(code: string, down: boolean) {
    if (!/^[A-Za-z0-9]{1,24}$/.test(code)) return
    if (down) this.keys.add(code)
    else if (!this.keys.delete(code)) return
    this.put({ ...none, is: 'key', code, down })
    this.send()
  }

  turn(right: number, down: number) {
    this.put({ ...none, is: 'wheel', x: notches(right), y: notches(down) })
    this.send()
  }

  /** Lets go of all that is pressed, as when the reader looks elsewhere. */
  release() {
    for (const button of [...this.buttons]) this.press(button, false)
    for (const key of [...this.keys]) this.key(key, false)
  }

  private put(input: DriveInput) {
    if (this.waiting.length < Driving.mostAtOnce || ('down' in input && !input.down)) this.waiting.push(input)
  }

  private send() {
    if (this.timer !== undefined) return
    this.timer = setTimeout(
      () => {
        this.timer = undefined
        this.sentAt = performance.now()
        sendDriving(this.exhibit, this.waiting.splice(0, Driving.mostAtOnce))
        if (this.waiting.length > 0) this.send()
      },
      Math.max(0, this.sentAt + Driving.beat - performance.now()),
    )
  }
}

const none: Omit<DriveInput, 'is'> = { x: 0, y: 0, button: 0, down: false, code: null }
const within = (share: number) => Math.max(0, Math.min(1, share))
const notches = (pixels: number) => Math.max(-10, Math.min(10, Math.sign(pixels) * Math.ceil(Math.abs(pixels) / 120)))
