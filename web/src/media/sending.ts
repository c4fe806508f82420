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
  { source: 'screen', service: 'sound', layer: 'none', codec: 'opus' },
]

/** The way out. */
interface Way {
  send: (bytes: Uint8Array<ArrayBuffer>) => void
  /** Bytes that wait in the socket. */
  waiting: () => number
}

let way: Way = { send: () => undefined, waiting: () => 0 }
let profile: Profile
let numbers: { voice: number; full: number; thumb: number; screen: number; sound: number } | null = null
let wanted: readonly number[] = []

export const sendBy = (by: Way) => (way = by)
export const setProfile = (wished: Profile) => (profile = wished)

/** The server gave the tracks their numbers; null when the socket has ended. */
export function number(tracks: readonly number[] | null) {
  const [voice, full, thumb, screen, sound] = tracks ?? []
  numbers =
    voice !== undefined && full !== undefined && thumb !== undefined && screen !== undefined && sound !== undefined
      ? { voice, full, thumb, screen, sound }
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

/** Codes sound in blocks of 20 ms. */
class SoundSender {
  private encoder: AudioEncoder | null = null
  private sequence = 0
  private time = 0
  private readonly levels: number[] = []
  private readonly track: () => number | undefined
  private readonly service: number
  private readonly config: AudioEncoderConfig

  constructor(track: () => number | undefined, of: number, config: object) {
    this.track = track
    this.service = of
    this.config = { ...audioConfig, ...config } as AudioEncoderConfig
  }

  take(samples: Float32Array, level: number) {
    if (!isWanted(this.track())) return
    this.levels.push(level)
    const channels = this.config.numberOfChannels
    const data = new AudioData({
      format: 'f32-planar',
      sampleRate: 48_000,
      numberOfFrames: samples.length / channels,
      numberOfChannels: channels,
      timestamp: this.time,
      data: samples as Float32Array<ArrayBuffer>,
    })
    this.time += (samples.length / channels / 48_000) * 1e6
    this.ready().encode(data)
    data.close()
  }

  private ready(): AudioEncoder {
    if (this.encoder && this.encoder.state === 'configured') return this.encoder
    this.levels.length = 1
    this.encoder = new AudioEncoder({ output: (chunk) => this.put(chunk), error: () => (this.encoder = null) })
    this.encoder.configure(this.config)
    return this.encoder
  }

  private put(chunk: EncodedAudioChunk) {
    const track = this.track()
    if (track === undefined) return
    const data = new Uint8Array(chunk.byteLength)
    chunk.copyTo(data)
    const level = this.levels.shift() ?? 127
    const [duration, captureTime] = [200, chunk.timestamp]
    way.send(
      writeFrame({ service: this.service, key: true, track, sequence: this.sequence++, level, duration, captureTime }, data),
    )
  }
}

const voiceSender = new SoundSender(() => numbers?.voice, service.voice, { bitrate: 28_000, opus })
const screenSoundSender = new SoundSender(() => numbers?.sound, service.sound, {
  numberOfChannels: 2,
  bitrate: 96_000,
  opus: { frameDuration: 20_000, application: 'audio', signal: 'music' },
})

/** The loudest that was sent since this was last asked, in -dBov. */
let loudest = 127

export function takeOwnLevel() {
  const level = loudest
  loudest = 127
  return level
}

export function takeSound(samples: Float32Array) {
  if (!isWanted(numbers?.voice)) return
  const level = levelOf(samples)
  loudest = Math.min(loudest, level)
  voiceSender.take(samples, level)
}

export const takeScreenSound = (samples: Float32Array) => screenSoundSender.take(samples, 0)
