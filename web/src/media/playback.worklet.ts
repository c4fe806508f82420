// Mixes all voices, and what screens sound like in two channels. Each has a ring of its own: it starts to play when 80 ms are there,
// and what is more than 250 ms behind is skipped, so that a hiccup of the network does not become a lasting delay.
const startAt = 0.08 * sampleRate
const cap = 0.25 * sampleRate
const reportEvery = 0.1 * sampleRate

class Ring {
  private readonly blocks: { left: Float32Array; right: Float32Array }[] = []
  private offset = 0
  private length = 0
  private playing = false
  power = 0

  put(left: Float32Array, right = left) {
    this.blocks.push({ left, right })
    this.length += left.length
    if (this.length > cap) {
      while (this.length > startAt) this.dropFirst()
    }
    if (this.length >= startAt) this.playing = true
  }

  /** @param also a second mix, for those who are in it */
  addTo(left: Float32Array, right: Float32Array, also: Float32Array[] | null) {
    if (!this.playing) return
    for (let i = 0; i < left.length; i++) {
      const block = this.blocks[0]
      if (!block) {
        this.playing = false
        return
      }
      const sample = block.left[this.offset]!
      const other = block.right[this.offset++]!
      left[i]! += sample
      right[i]! += other
      if (also) {
        also[0]![i]! += sample
        also[1]![i]! += other
      }
      this.power += sample * sample
      this.length--
      if (this.offset >= block.left.length) {
        this.blocks.shift()
        this.offset = 0
      }
    }
  }

  private dropFirst() {
    this.length -= (this.blocks.shift()?.left.length ?? 0) - this.offset
    this.offset = 0
  }
}

/** Samples of a voice (its seat) or of a screen (its owner's, below zero); null when nothing more comes. */
interface Come {
  from: number
  samples: Float32Array | null
  right?: Float32Array
}

class Playback extends AudioWorkletProcessor {
  private readonly rings = new Map<number, Ring>()
  /** Whose voices stand in the second mix; null for no second mix. */
  private keeps: Set<number> | null = null
  private sinceReport = 0

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<MessagePort | { keeps: readonly number[] | null }>) => {
      if ('keeps' in data) {
        this.keeps = data.keeps && new Set(data.keeps)
        return
      }
      data.onmessage = ({ data: { from, samples, right } }: MessageEvent<Come>) => {
        if (!samples) return void this.rings.delete(from)
        let ring = this.rings.get(from)
        if (!ring) this.rings.set(from, (ring = new Ring()))
        ring.put(samples, right)
      }
    }
  }

  override process(_: Float32Array[][], outputs: Float32Array[][]) {
    const [left, right] = outputs[0] ?? []
    if (!left || !right) return true
    const recorded = outputs[1] && outputs[1].length >= 2 ? outputs[1] : null
    for (const [from, ring] of this.rings) ring.addTo(left, right, recorded && this.keeps?.has(Math.abs(from)) ? recorded : null)
    for (const out of [left, right, ...(recorded ?? [])])
      for (let i = 0; i < out.length; i++) out[i] = Math.max(-1, Math.min(1, out[i]!))
    this.sinceReport += left.length
    if (this.sinceReport >= reportEvery) this.report()
    return true
  }

  /** Tells how loud each voice was, as it was played. */
  private report() {
    const played = [...this.rings].map(([seat, ring]) => {
      const rms = Math.sqrt(ring.power / this.sinceReport)
      ring.power = 0
      return { seat, rms }
    })
    this.port.postMessage(played)
    this.sinceReport = 0
  }
}

registerProcessor('playback', Playback)
