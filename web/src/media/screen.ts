import { service, writePicture } from './wire'

// What this browser sends of a screen: coarse while it changes, sharp once it rests, and nothing while it stands still.

/** Quantizers of VP9, 0 (best) to 63: while it changes, and for the one picture sent once it rests. */
const [coarse, sharp] = [42, 22]
const [sharpRate, smoothRate] = [15, 30]
/** So long without a change, in milliseconds, it rests. */
const restsAfter = 150
const mostWaitingInSocket = 1_500_000
const mostWaitingInEncoder = 2
/** A window that is being resized settles for so long before the encoder follows, in milliseconds. */
const settles = 200

/** So long after a failure, in milliseconds, it is tried again. */
const failedRestsFor = 1000

const vp9 = 'vp09.00.40.08'

/** @param smooth movement rather than detail, as for a film */
const configOf = (codec: string, width: number, height: number, smooth = false): VideoEncoderConfig => ({
  codec,
  width,
  height,
  framerate: smooth ? smoothRate : sharpRate,
  latencyMode: 'realtime',
  contentHint: smooth ? 'motion' : 'text',
  ...(codec === vp9 && !smooth
    ? { bitrateMode: 'quantizer' as const }
    : { bitrate: smooth && width * height > 1_000_000 ? 2_500_000 : 1_500_000, bitrateMode: 'variable' as const }),
})

/** The best way of this browser: VP9 with a fixed quality, or else VP8. */
export const screenCodec: Promise<string> = Promise.resolve()
  .then(() => VideoEncoder.isConfigSupported(configOf(vp9, 1280, 720)))
  .then(({ supported }) => (supported ? vp9 : 'vp8'))
  .catch(() => 'vp8')

interface Way {
  send: (bytes: Uint8Array<ArrayBuffer>) => void
  waiting: () => number
  /** The number of the track; undefined while nobody gets it. */
  track: () => number | undefined
}

export class ScreenSender {
  private encoder: VideoEncoder | null = null
  private codec = 'vp8'
  private size = { width: 0, height: 0, since: 0 }
  /** The newest picture, to be coded anew for a newcomer and once it rests. One is kept: a capture stops at sixteen. */
  private kept: VideoFrame | null = null
  private lastAt = -Infinity
  private rest: ReturnType<typeof setTimeout> | undefined
  private sequence = 0
  private held = false
  private smooth = false
  private needsKey = true
  private readonly way: Way

  constructor(way: Way) {
    this.way = way
    void screenCodec.then((codec) => (this.codec = codec))
  }

  take(frame: VideoFrame) {
    this.kept?.close()
    this.kept = frame
    // What changes meanwhile is what it goes on from.
    if (this.held) return
    this.restLater()
    // A little early is in time, since frames never come at exactly their beat.
    if (performance.now() - this.lastAt >= 1000 / (this.smooth ? smoothRate : sharpRate) - 12) this.encode(coarse)
  }

  /** Somebody has no picture yet. */
  askForKey() {
    this.needsKey = true
    if (!this.held) this.restLater(0)
  }

  /** What was sent last is made whole, so that whoever comes meanwhile has it; then nothing more is sent. */
  async hold(on: boolean) {
    clearTimeout(this.rest)
    if (on) {
      this.needsKey = true
      this.encode(sharp)
      await this.encoder?.flush().catch(() => undefined)
      this.held = true
    } else {
      this.held = false
      this.needsKey = true
      this.restLater(0)
    }
  }

  /** Movement before detail, or the other way round. */
  favour(smooth: boolean) {
    if (this.smooth === smooth) return
    this.smooth = smooth
    this.close()
    if (!this.held) this.restLater(0)
  }

  /** Nobody gets it at the moment. */
  pause() {
    clearTimeout(this.rest)
    this.close()
  }

  stop() {
    this.pause()
    this.kept?.close()
    this.kept = null
    this.held = this.smooth = false
  }

  private restLater(after = restsAfter) {
    clearTimeout(this.rest)
    this.rest = setTimeout(() => this.encode(sharp), after)
  }

  private encode(quantizer: number) {
    const frame = this.kept
    if (!frame || this.way.track() === undefined) return
    const encoder = this.ready(frame)
    if (encoder.encodeQueueSize >= mostWaitingInEncoder || this.way.waiting() > mostWaitingInSocket) return this.restLater()
    this.lastAt = performance.now()
    const keyFrame = this.needsKey
    this.needsKey = false
    // What is coded twice must not have the moment of before.
    const timed = new VideoFrame(frame, { timestamp: Math.round(performance.now() * 1000) })
    // The types do not know the quantizer yet.
    encoder.encode(timed, {
      keyFrame,
      ...(this.codec === vp9 && !this.smooth && { vp9: { quantizer } }),
    } as VideoEncoderEncodeOptions)
    timed.close()
  }

  private ready(frame: VideoFrame): VideoEncoder {
    const now = performance.now()
    const [width, height] = [even(frame.displayWidth), even(frame.displayHeight)]
    const isSame = width === this.size.width && height === this.size.height
    if (this.encoder?.state === 'configured' && (isSame || now - this.size.since < settles)) {
      if (!isSame) this.restLater(settles)
      return this.encoder
    }
    this.close()
    this.size = { width, height, since: now }
    this.encoder = new VideoEncoder({ output: (chunk) => this.put(chunk), error: () => this.failed() })
    this.encoder.configure(configOf(this.codec, width, height, this.smooth))
    this.needsKey = true
    return this.encoder
  }

  /** What stands there is coded again by a new encoder. */
  private failed() {
    this.close()
    if (!this.held) this.restLater(failedRestsFor)
  }

  private close() {
    if (this.encoder && this.encoder.state !== 'closed') this.encoder.close()
    this.encoder = null
    this.needsKey = true
  }

  private put(chunk: EncodedVideoChunk) {
    const track = this.way.track()
    if (track === undefined) return
    this.way.send(writePicture(chunk, { service: service.screen, track, sequence: this.sequence++ }))
  }
}

const even = (length: number) => Math.max(2, length - (length % 2))
