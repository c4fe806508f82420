import type { TrackDescription } from '../contract.generated'
import type { Layer, Profile } from './profile'
import { ScreenSender, screenCodec } from './screen'
import { levelOf, service, writeFrame, writePicture } from './wire'

// What this browser sends: its voice, and its camera in two layers.

const audioConfig = { codec: 'opus', sampleRate: 48_000, numberOfChannels: 1 } as const
const opus = { frameDuration: 20_000, application: 'voip', signal: 'voice', usedtx: true }
const keyEvery = 10_000
const mostWaitingInSocket = 300_000
const mostWaitingInEncoder = 3

/** The tracks of a browser, in the order in which the server numbers them. */
export const ownTracks = async (): Promise<readonly TrackDescription[]> => [
  { source: 'microphone', service: 'voice', layer: 'none', codec: 'opus' },
  { source: 'camera', service: 'camera', layer: 'full', codec: 'vp8' },
  { source: 'camera', service: 'camera', layer: 'thumb', codec: 'vp8' },
  { source: 'screen', service: 'screen', layer: 'full', codec: await screenCodec },
]

/** The way out. */
interface Way {
  send: (bytes: Uint8Array<ArrayBuffer>) => void
  /** Bytes that wait in the socket. */
  waiting: () => number
}

let way: Way = { send: () => undefined, waiting: () => 0 }
let profile: Profile
let numbers: { voice: number; full: number; thumb: number; screen: number } | null = null
let wanted: readonly number[] = []

export const sendBy = (by: Way) => (way = by)
export const setProfile = (wished: Profile) => (profile = wished)

/** The server gave the tracks their numbers; null when the socket has ended. */
export function number(tracks: readonly number[] | null) {
  const [voice, full, thumb, screen] = tracks ?? []
  numbers =
    voice !== undefined && full !== undefined && thumb !== undefined && screen !== undefined
      ? { voice, full, thumb, screen }
      : null
  wanted = []
  fullSender.needsKey = thumbSender.needsKey = true
}

/** Only these are needed by anybody. */
export function want(tracks: readonly number[]) {
  const hadScreen = isWanted(numbers?.screen)
  wanted = tracks
  if (!isWanted(numbers?.full)) fullSender.stop()
  if (!isWanted(numbers?.thumb)) thumbSender.stop()
  if (!isWanted(numbers?.screen)) screenSender.pause()
  else if (!hadScreen) screenSender.askForKey()
}

export function needKey(track: number) {
  if (track === numbers?.full) fullSender.needsKey = true
  if (track === numbers?.thumb) thumbSender.needsKey = true
  if (track === numbers?.screen) screenSender.askForKey()
}

const isWanted = (track: number | undefined) => track !== undefined && wanted.includes(track)

class PictureSender {
  private encoder: VideoEncoder | null = null
  private sequence = 0
  private keyAt = -Infinity
  private lastAt = -Infinity
  private canvas: OffscreenCanvas | null = null
  needsKey = true
  private readonly track: () => number | undefined

  constructor(track: () => number | undefined) {
    this.track = track
  }

  take(frame: VideoFrame, layer: Layer) {
    const now = performance.now()
    // A little early is in time, since frames never come at exactly their beat.
    if (now - this.lastAt < 1000 / layer.framerate - 12) return
    const encoder = this.ready(layer)
    if (encoder.encodeQueueSize >= mostWaitingInEncoder || way.waiting() > mostWaitingInSocket) return
    this.lastAt = now
    const keyFrame = this.needsKey || now - this.keyAt > keyEvery
    if (keyFrame) [this.needsKey, this.keyAt] = [false, now]
    const fitted = this.fit(frame, layer)
    encoder.encode(fitted, { keyFrame })
    if (fitted !== frame) fitted.close()
  }

  stop() {
    if (this.encoder && this.encoder.state !== 'closed') this.encoder.close()
    this.encoder = null
    this.needsKey = true
  }

  private ready(layer: Layer): VideoEncoder {
    if (this.encoder && this.encoder.state === 'configured') return this.encoder
    this.encoder = new VideoEncoder({ output: (chunk) => this.put(chunk), error: () => this.stop() })
    this.encoder.configure({ codec: 'vp8', ...layer, latencyMode: 'realtime', bitrateMode: 'variable' })
    this.needsKey = true
    return this.encoder
  }

  /** Cuts the picture to the layer's shape, out of its middle. */
  private fit(frame: VideoFrame, { width, height }: Layer): VideoFrame {
    if (frame.displayWidth === width && frame.displayHeight === height) return frame
    this.canvas ??= new OffscreenCanvas(width, height)
    const scale = Math.max(width / frame.displayWidth, height / frame.displayHeight)
    const [w, h] = [frame.displayWidth * scale, frame.displayHeight * scale]
    this.canvas.getContext('2d', { alpha: false })!.drawImage(frame, (width - w) / 2, (height - h) / 2, w, h)
    return new VideoFrame(this.canvas, { timestamp: frame.timestamp })
  }

  private put(chunk: EncodedVideoChunk) {
    const track = this.track()
    if (track === undefined) return
    way.send(writePicture(chunk, { service: service.camera, track, sequence: this.sequence++ }))
  }
}

const fullSender = new PictureSender(() => numbers?.full)
const thumbSender = new PictureSender(() => numbers?.thumb)

const screenSender = new ScreenSender({
  send: (bytes) => way.send(bytes),
  waiting: () => way.waiting(),
  track: () => (isWanted(numbers?.screen) ? numbers?.screen : undefined),
})

export const takeScreenFrame = (frame: VideoFrame) => screenSender.take(frame)
export const holdScreen = (on: boolean) => screenSender.hold(on)
export const smoothScreen = (on: boolean) => screenSender.favour(on)

let screenReader: ReadableStreamDefaultReader<VideoFrame> | null = null

export async function readScreen(frames: ReadableStream<VideoFrame> | null) {
  void screenReader?.cancel()
  screenSender.stop()
  screenReader = frames?.getReader() ?? null
  for (const reader = screenReader; reader;) {
    const { value, done } = await reader.read()
    if (done) break
    if (reader === screenReader) takeScreenFrame(value)
    else value.close()
  }
}

export function takeCameraFrame(frame: VideoFrame) {
  if (isWanted(numbers?.full)) fullSender.take(frame, profile.full)
  if (isWanted(numbers?.thumb)) thumbSender.take(frame, profile.thumb)
  frame.close()
}

let cameraReader: ReadableStreamDefaultReader<VideoFrame> | null = null

export async function readCamera(frames: ReadableStream<VideoFrame> | null) {
  void cameraReader?.cancel()
  cameraReader = frames?.getReader() ?? null
  for (const reader = cameraReader; reader;) {
    const { value, done } = await reader.read()
    if (done) break
    if (reader === cameraReader) takeCameraFrame(value)
    else value.close()
  }
  if (!frames) {
    fullSender.stop()
    thumbSender.stop()
  }
}

let soundEncoder: AudioEncoder | null = null
let soundSequence = 0
let soundTime = 0
const soundLevels: number[] = []

/** The loudest that was sent since this was last asked, in -dBov. */
let loudest = 127

export function takeOwnLevel() {
  const level = loudest
  loudest = 127
  return level
}

export function takeSound(samples: Float32Array) {
  if (!isWanted(numbers?.voice)) return
  if (!soundEncoder || soundEncoder.state !== 'configured') {
    soundLevels.length = 0
    soundEncoder = new AudioEncoder({
      output: (chunk) => {
        const data = new Uint8Array(chunk.byteLength)
        chunk.copyTo(data)
        if (numbers)
          way.send(
            writeFrame(
              {
                service: service.voice,
                key: true,
                track: numbers.voice,
                sequence: soundSequence++,
                level: soundLevels.shift() ?? 127,
                duration: 200,
                captureTime: chunk.timestamp,
              },
              data,
            ),
          )
      },
      error: () => (soundEncoder = null),
    })
    soundEncoder.configure({ ...audioConfig, bitrate: 28_000, opus } as AudioEncoderConfig)
  }
  const level = levelOf(samples)
  soundLevels.push(level)
  loudest = Math.min(loudest, level)
  const data = new AudioData({
    format: 'f32',
    sampleRate: 48_000,
    numberOfFrames: samples.length,
    numberOfChannels: 1,
    timestamp: soundTime,
    data: samples as Float32Array<ArrayBuffer>,
  })
  soundTime += (samples.length / 48_000) * 1e6
  soundEncoder.encode(data)
  data.close()
}
