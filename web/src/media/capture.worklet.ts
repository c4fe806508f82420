// Gathers the microphone's samples into blocks of 20 ms and hands them to the media worker.
const blockSize = 960
/** The page hears twice a second that samples come. */
const blocksBetweenSigns = 25

class Capture extends AudioWorkletProcessor {
  private block = new Float32Array(blockSize)
  private filled = 0
  private blocks = 0
  private out: MessagePort | null = null

  constructor() {
    super()
    this.port.onmessage = ({ data }: MessageEvent<MessagePort>) => (this.out = data)
  }

  override process(inputs: Float32Array[][]) {
    const samples = inputs[0]?.[0]
    if (!samples) return true
    for (const sample of samples) {
      this.block[this.filled++] = sample
      if (this.filled < blockSize) continue
      this.out?.postMessage(this.block, [this.block.buffer])
      this.block = new Float32Array(blockSize)
      this.filled = 0
      if (this.blocks++ % blocksBetweenSigns === 0) this.port.postMessage('samples')
    }
    return true
  }
}

registerProcessor('capture', Capture)
