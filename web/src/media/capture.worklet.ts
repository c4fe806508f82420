// Gathers samples into blocks of 20 ms and hands them to the media worker: a microphone's, or a screen's in two channels, one after the
// other in the block.
const blockSize = 960
/** The page hears twice a second that samples come. */
const blocksBetweenSigns = 25

class Capture extends AudioWorkletProcessor {
  private readonly channels: number
  private block: Float32Array
  private filled = 0
  private blocks = 0
  private out: MessagePort | null = null

  constructor(options?: AudioWorkletNodeOptions) {
    super()
    this.channels = (options?.processorOptions as { channels?: number } | undefined)?.channels ?? 1
    this.block = new Float32Array(blockSize * this.channels)
    this.port.onmessage = ({ data }: MessageEvent<MessagePort>) => (this.out = data)
  }

  override process(inputs: Float32Array[][]) {
    const [left, right] = inputs[0] ?? []
    if (!left) return true
    for (let at = 0; at < left.length; at++) {
      this.block[this.filled] = left[at]!
      if (this.channels === 2) this.block[blockSize + this.filled] = (right ?? left)[at]!
      this.filled++
      if (this.filled < blockSize) continue
      this.out?.postMessage(this.block, [this.block.buffer])
      this.block = new Float32Array(blockSize * this.channels)
      this.filled = 0
      if (this.blocks++ % blocksBetweenSigns === 0) this.port.postMessage('samples')
    }
    return true
  }
}

registerProcessor('capture', Capture)
