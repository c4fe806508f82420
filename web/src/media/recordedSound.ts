import captureUrl from './capture.worklet.ts?worker&url'

/** All that is heard of those who may be recorded, and one's own voice, as blocks of 20 ms in one channel. */
export class RecordedSound {
  private speaker: AudioWorkletNode | null = null
  private microphone: AudioNode | null = null
  private mix: GainNode | null = null

  /** The voices of others come from here. */
  hears(speaker: AudioWorkletNode) {
    this.speaker = speaker
    if (this.mix) speaker.connect(this.mix, 1)
  }

  /** One's own voice comes from here, as long as the microphone is open. */
  has(microphone: AudioNode) {
    this.microphone = microphone
    if (this.mix && this.ownToo) microphone.connect(this.mix)
  }

  private ownToo = true

  /** Whose voices are recorded from now on; nobody else's is. */
  keep(seats: readonly number[], own: boolean) {
    this.speaker?.port.postMessage({ keeps: seats })
    if (own === this.ownToo || !this.mix) {
      this.ownToo = own
      return
    }
    this.ownToo = own
    if (own) return void this.microphone?.connect(this.mix)
    try {
      this.microphone?.disconnect(this.mix)
    } catch {
      // A microphone that was closed meanwhile is connected to nothing.
    }
  }

  /**
   * @param take gets each block as it comes, 960 samples at 48 kHz
   * @returns what ends it
   */
  async start(context: AudioContext, take: (block: Float32Array<ArrayBuffer>) => void): Promise<() => void> {
    await context.audioWorklet.addModule(captureUrl)
    const mix = new GainNode(context, { channelCount: 1, channelCountMode: 'explicit' })
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 })
    const { port1, port2 } = new MessageChannel()
    node.port.postMessage(port1, [port1])
    port2.onmessage = ({ data }: MessageEvent<Float32Array<ArrayBuffer>>) => take(data)
    mix.connect(node)
    this.mix = mix
    this.speaker?.connect(mix, 1)
    if (this.ownToo) this.microphone?.connect(mix)
    return () => {
      this.speaker?.port.postMessage({ keeps: null })
      this.speaker?.disconnect(mix, 1)
      mix.disconnect()
      port2.close()
      this.mix = null
    }
  }
}
