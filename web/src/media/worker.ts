import type { FromBrowser, ToBrowser } from '../contract.generated'
import type { FromWorker, ToWorker } from './messages'
import type { Layer, Profile } from './profile'
import { frameType, levelOf, readFrames, writeFrame, type Frame } from './wire'

// The encoders, the decoders and the socket live here, so that a busy page does not stop the sound.

const audioConfig = { codec: 'opus', sampleRate: 48_000, numberOfChannels: 1 } as const
const opus = { frameDuration: 20_000, application: 'voip', signal: 'voice', usedtx: true }
const keyEvery = 10_000
const mostWaitingInSocket = 300_000
const mostWaitingInEncoder = 3
const mostWaitingInDecoder = 15

let profile: Profile
let socket: WebSocket | null = null
let wanted = { audio: false, full: false, thumb: false }
let own: { audio: number; full: number; thumb: number } | null = null
let speakerPort: MessagePort | null = null

const say = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, { transfer })
const tell = (message: FromBrowser) => socket?.readyState === WebSocket.OPEN && socket.send(JSON.stringify(message))
const send = (bytes: Uint8Array<ArrayBuffer>) => socket?.readyState === WebSocket.OPEN && socket.send(bytes)

// ---- sending ----

class PictureSender {
  private encoder: VideoEncoder | null = null
  private sequence = 0
  private keyAt = -Infinity
  private lastAt = -Infinity
  private canvas: OffscreenCanvas | null = null
  needsKey = true
  private readonly type: number
  private readonly track: () => number | undefined

  constructor(type: number, track: () => number | undefined) {
    this.type = type
    this.track = track
  }

  take(frame: VideoFrame, layer: Layer) {
    const now = performance.now()
    // A little early is in time, since frames never come at exactly their beat.
    if (now - this.lastAt < 1000 / layer.framerate - 12) return
    const encoder = this.ready(layer)
    if (encoder.encodeQueueSize >= mostWaitingInEncoder || (socket?.bufferedAmount ?? 0) > mostWaitingInSocket) return
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
    const data = new Uint8Array(chunk.byteLength)
    chunk.copyTo(data)
    send(
      writeFrame(
        {
          type: this.type,
          key: chunk.type === 'key',
          track,
          sequence: this.sequence++,
          level: 0,
          duration: 0,
          captureTime: chunk.timestamp,
        },
        data,
      ),
    )
  }
}

const full = new PictureSender(frameType.full, () => own?.full)
const thumb = new PictureSender(frameType.thumb, () => own?.thumb)

function takeCameraFrame(frame: VideoFrame) {
  if (wanted.full) full.take(frame, profile.full)
  if (wanted.thumb) thumb.take(frame, profile.thumb)
  frame.close()
}

let cameraReader: ReadableStreamDefaultReader<VideoFrame> | null = null

async function readCamera(frames: ReadableStream<VideoFrame> | null) {
  void cameraReader?.cancel()
  cameraReader = frames?.getReader() ?? null
  for (const reader = cameraReader; reader;) {
    const { value, done } = await reader.read()
    if (done) break
    if (reader === cameraReader) takeCameraFrame(value)
    else value.close()
  }
  if (!frames) {
    full.stop()
    thumb.stop()
  }
}

let soundEncoder: AudioEncoder | null = null
let soundSequence = 0
let soundTime = 0
const soundLevels: number[] = []

function takeSound(samples: Float32Array) {
  if (!wanted.audio || !own) return
  if (!soundEncoder || soundEncoder.state !== 'configured') {
    soundLevels.length = 0
    soundEncoder = new AudioEncoder({
      output: (chunk) => {
        const data = new Uint8Array(chunk.byteLength)
        chunk.copyTo(data)
        if (own)
          send(
            writeFrame(
              {
                type: frameType.audio,
                key: true,
                track: own.audio,
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
  ownLevel = Math.min(ownLevel, level)
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

// ---- receiving ----

abstract class Player {
  protected sequence = -1
  readonly seat: number
  /** When its last frame came. */
  lastAt = performance.now()

  constructor(seat: number) {
    this.seat = seat
  }

  abstract take(frame: Frame): void
  /** Gives its decoder back; a further frame opens a new one. */
  abstract stop(): void
}

class PicturePlayer extends Player {
  private decoder: VideoDecoder | null = null
  private needsKey = true
  private readonly track: number

  constructor(seat: number, track: number) {
    super(seat)
    this.track = track
  }

  take(frame: Frame) {
    if (frame.sequence !== this.sequence + 1 && !frame.key && !this.needsKey) this.askForKey()
    this.sequence = frame.sequence
    if (this.needsKey && !frame.key) return
    if (!this.decoder || this.decoder.state !== 'configured') {
      if (!frame.key) return
      this.decoder = new VideoDecoder({
        output: (picture) => say({ is: 'picture', seat: this.seat, frame: picture }, [picture]),
        error: () => this.askForKey(),
      })
      this.decoder.configure({ codec: 'vp8', optimizeForLatency: true })
    }
    if (this.decoder.decodeQueueSize > mostWaitingInDecoder && !frame.key) return this.askForKey()
    this.needsKey = false
    this.decoder.decode(
      new EncodedVideoChunk({ type: frame.key ? 'key' : 'delta', timestamp: frame.captureTime, data: frame.data }),
    )
  }

  stop() {
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close()
    this.decoder = null
    this.needsKey = true
  }

  private askForKey() {
    this.needsKey = true
    tell({ type: 'key', track: this.track })
  }
}

class SoundPlayer extends Player {
  private decoder: AudioDecoder | null = null

  take(frame: Frame) {
    if (!this.decoder || this.decoder.state !== 'configured') {
      this.decoder = new AudioDecoder({ output: (sound) => this.play(sound), error: () => (this.decoder = null) })
      this.decoder.configure(audioConfig)
    }
    heard.set(this.seat, Math.min(heard.get(this.seat) ?? 127, frame.level))
    if (this.decoder.decodeQueueSize > mostWaitingInDecoder) return
    this.decoder.decode(new EncodedAudioChunk({ type: 'key', timestamp: frame.captureTime, data: frame.data }))
  }

  stop() {
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close()
    this.decoder = null
    speakerPort?.postMessage({ seat: this.seat, samples: null })
  }

  private play(sound: AudioData) {
    const samples = new Float32Array(sound.numberOfFrames)
    sound.copyTo(samples, { planeIndex: 0, format: 'f32-planar' })
    sound.close()
    speakerPort?.postMessage({ seat: this.seat, samples }, [samples.buffer])
  }
}

const players = new Map<number, Player>()

/** For so long without a frame, in milliseconds, a decoder is given back. */
const restsAfter = 20_000

setInterval(() => {
  const now = performance.now()
  players.forEach((player) => {
    if (now - player.lastAt > restsAfter) player.stop()
  })
}, restsAfter / 4)

/** The tracks of somebody who has gone. */
function endTracks(tracks: readonly number[]) {
  const ended = tracks.map((track) => players.get(track)).filter((player) => player !== undefined)
  ended.forEach((player) => player.stop())
  tracks.forEach((track) => players.delete(track))
  say({ is: 'ended', seats: [...new Set(ended.map(({ seat }) => seat))] })
}

function stopReceiving() {
  players.forEach((player) => player.stop())
  players.clear()
}

function hear(message: ToBrowser) {
  switch (message.type) {
    case 'publish':
      own = message
      full.needsKey = thumb.needsKey = true
      break
    case 'wanted':
      wanted = message
      if (!wanted.full) full.stop()
      if (!wanted.thumb) thumb.stop()
      break
    case 'key':
      if (message.track === own?.full) full.needsKey = true
      if (message.track === own?.thumb) thumb.needsKey = true
      break
    case 'track':
      players.get(message.track)?.stop()
      players.set(
        message.track,
        message.kind === 'audio' ? new SoundPlayer(message.seat) : new PicturePlayer(message.seat, message.track),
      )
      break
    case 'ended':
      endTracks(message.tracks)
      break
    case 'speaker':
      say({ is: 'speaker', seat: message.seat })
      break
    case 'capacity':
      say({ is: 'slow', slow: message.slow })
      break
    case 'mark':
      tell({ type: 'echo', mark: message.mark })
      break
  }
}

// ---- how loud everybody is ----

const heard = new Map<number, number>()
let ownLevel = 127

/** -60 dBov and below is nothing, full scale is 100. */
const shown = (level: number) => Math.max(0, Math.round(100 - level * (100 / 60)))

setInterval(() => {
  if (heard.size === 0 && ownLevel === 127) return
  say({ is: 'levels', own: shown(ownLevel), voices: [...heard].map(([seat, level]) => ({ seat, level: shown(level) })) })
  ownLevel = 127
  // Who is not heard any more falls silent once, and is then left out.
  for (const [seat, level] of heard) {
    if (level === 127) heard.delete(seat)
    else heard.set(seat, 127)
  }
}, 120)

// ---- the socket ----

let lastWish: FromBrowser | null = null

function open(url: string) {
  close()
  const opened = new WebSocket(url)
  socket = opened
  opened.binaryType = 'arraybuffer'
  opened.onopen = () => {
    say({ is: 'opened' })
    if (lastWish) tell(lastWish)
  }
  opened.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) => {
    if (typeof data === 'string') hear(JSON.parse(data) as ToBrowser)
    else
      for (const frame of readFrames(data)) {
        const player = players.get(frame.track)
        if (!player) continue
        player.lastAt = performance.now()
        player.take(frame)
      }
  }
  opened.onclose = () => {
    if (socket !== opened) return
    close()
    say({ is: 'closed' })
  }
}

function close() {
  const old = socket
  socket = null
  own = null
  wanted = { audio: false, full: false, thumb: false }
  stopReceiving()
  old?.close()
}

self.onmessage = ({ data: message }: MessageEvent<ToWorker>) => {
  switch (message.do) {
    case 'open':
      return open(message.url)
    case 'close':
      return close()
    case 'profile':
      profile = message.profile
      return
    case 'microphone':
      if (message.port) message.port.onmessage = ({ data }: MessageEvent<Float32Array>) => takeSound(data)
      return
    case 'camera':
      return void readCamera(message.frames)
    case 'cameraFrame':
      return takeCameraFrame(message.frame)
    case 'speaker':
      speakerPort = message.port
      return
    case 'wish':
      lastWish = { type: 'wish', pictures: message.pictures }
      tell(lastWish)
  }
}
