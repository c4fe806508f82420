// Mixes all voices. Each has a ring of its own: it starts to play when 80 ms are there, and what is more than 250 ms
// behind is skipped, so that a hiccup of the network does not become a lasting delay.
const startAt = 0.08 * sampleRate
const cap = 0.25 * sampleRate
const reportEvery = 0.1 * sampleRate

class Ring {
  private readonly blocks: Float32Array[] = []
  private offset = 0
  private length = 0
  private playing = false
  power = 0

  put(samples: Float32Array) {
    this.blocks.push(samples)
    this.length += samples.length
    if (this.length > cap) {
      while (this.length > startAt) this.dropFirst()
    }
    if (this.length >= startAt) this.playing = true
  }

  addTo(out: Float32Array) {
    if (!this.playing) return
    for (let i = 0; i < out.length; i++) {
      const block = this.blocks[0]
      if (!block) {
        this.playing = false
        return
      }
      const sample = block[this.offset++]!
      out[i]! += sample
      this.power += sample * sample
      this.length--
      if (this.offset >= block.length) {
        this.blocks.shift()
        this.offset = 0
      }
    }
  }

  private dropFirst() {
    this.length -= (this.blocks.shift()?.length ?? 0) - this.offset
    this.offset = 0
  }
}

class Playback extends AudioWorkletProcessor {
  private readonly rings = new Map<number, Ring>()
  private sinceReport = 0

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<MessagePort>) => {
      data.onmessage = ({ data: { seat, samples } }: MessageEvent<{ seat: number; samples: Float32Array | null }>) => {
        if (!samples) return void this.rings.delete(seat)
        let ring = this.rings.get(seat)
        if (!ring) this.rings.set(seat, (ring = new Ring()))
        ring.put(samples)
      }
    }
  }

  override process(_: Float32Array[][], outputs: Float32Array[][]) {
    const out = outputs[0]?.[0]
    if (!out) return true
    for (const ring of this.rings.values()) ring.addTo(out)
    for (let i = 0; i < out.length; i++) out[i] = Math.max(-1, Math.min(1, out[i]!))
    for (const other of outputs[0]!.slice(1)) other.set(out)
    this.sinceReport += out.length
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
