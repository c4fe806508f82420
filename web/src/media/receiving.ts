import type { ToBrowser } from '../contract.generated'
import type { FromWorker } from './messages'
import { readFrames, type Frame } from './wire'

// What comes from others: a decoder for each track, and how loud everybody is.

const audioConfig = { codec: 'opus', sampleRate: 48_000, numberOfChannels: 1 } as const
const mostWaitingInDecoder = 15
/** So long, in milliseconds, a whole picture is waited for before it is asked for again. */
const asksAgainAfter = 1000

type Introduced = Extract<ToBrowser, { type: 'introduced' }>

interface Way {
  say: (message: FromWorker, transfer?: Transferable[]) => void
  askForKey: (track: number) => void
}

let way: Way = { say: () => undefined, askForKey: () => undefined }
let speakerPort: MessagePort | null = null

export const receiveBy = (by: Way) => (way = by)
export const playBy = (port: MessagePort) => (speakerPort = port)

abstract class Player {
  protected sequence = -1
  readonly seat: number
  /** When its last frame came. */
  lastAt = performance.now()

  constructor(seat: number) {
    this.seat = seat
  }

  /** Its decoder is given back when nothing comes for long. */
  get rests() {
    return true
  }

  abstract take(frame: Frame): void
  /** Gives its decoder back; a further frame opens a new one. */
  abstract stop(): void
}

class PicturePlayer extends Player {
  private decoder: VideoDecoder | null = null
  private needsKey = true
  private askedAt = performance.now()
  private readonly track: number
  private readonly codec: string
  readonly source: string

  constructor({ seat, track, what }: Introduced) {
    super(seat)
    this.track = track
    this.codec = what.codec
    this.source = what.source
  }

  /** A screen that stands still sends nothing, and goes on from where it stands. */
  override get rests() {
    return this.source !== 'screen'
  }

  take(frame: Frame) {
    if (frame.sequence !== this.sequence + 1 && !frame.key && !this.needsKey) this.askForKey()
    this.sequence = frame.sequence
    if (this.needsKey && !frame.key) return this.askAgain()
    if (!this.decoder || this.decoder.state !== 'configured') {
      if (!frame.key) return
      this.decoder = new VideoDecoder({
        output: (picture) => way.say({ is: 'picture', seat: this.seat, source: this.source, frame: picture }, [picture]),
        error: () => this.askForKey(),
      })
      this.decoder.configure({ codec: this.codec, optimizeForLatency: true })
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
    this.askedAt = performance.now()
    way.askForKey(this.track)
  }

  /** What was asked for may have been lost on its way. */
  private askAgain() {
    if (performance.now() - this.askedAt > asksAgainAfter) this.askForKey()
  }
}

class SoundPlayer extends Player {
  private decoder: AudioDecoder | null = null
  /** A voice; otherwise what a screen sounds like, in two channels. */
  private readonly isVoice: boolean

  constructor({ seat, what }: Introduced) {
    super(seat)
    this.isVoice = what.service === 'voice'
  }

  take(frame: Frame) {
    if (!this.decoder || this.decoder.state !== 'configured') {
      this.decoder = new AudioDecoder({ output: (sound) => this.play(sound), error: () => (this.decoder = null) })
      this.decoder.configure(this.isVoice ? audioConfig : { ...audioConfig, numberOfChannels: 2 })
    }
    if (this.isVoice) heard.set(this.seat, Math.min(heard.get(this.seat) ?? 127, frame.level))
    if (this.decoder.decodeQueueSize > mostWaitingInDecoder) return
    this.decoder.decode(new EncodedAudioChunk({ type: 'key', timestamp: frame.captureTime, data: frame.data }))
  }

  stop() {
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close()
    this.decoder = null
    speakerPort?.postMessage({ from: this.from, samples: null })
  }

  /** A seat's voice has its number, a screen's sound the same below zero. */
  private get from() {
    return this.isVoice ? this.seat : -this.seat
  }

  private play(sound: AudioData) {
    const [samples, right] = Array.from({ length: this.isVoice ? 1 : Math.min(2, sound.numberOfChannels) }, (_, planeIndex) => {
      const plane = new Float32Array(sound.numberOfFrames)
      sound.copyTo(plane, { planeIndex, format: 'f32-planar' })
      return plane
    })
    sound.close()
    speakerPort?.postMessage({ from: this.from, samples, right }, right ? [samples!.buffer, right.buffer] : [samples!.buffer])
  }
}

const players = new Map<number, Player>()

/** For so long without a frame, in milliseconds, a decoder is given back. */
const restsAfter = 20_000

setInterval(() => {
  const now = performance.now()
  players.forEach((player) => {
    if (player.rests && now - player.lastAt > restsAfter) player.stop()
  })
}, restsAfter / 4)

/** The tracks of somebody who has gone. */
export function endTracks(tracks: readonly number[]) {
  const ended = tracks.map((track) => players.get(track)).filter((player) => player !== undefined)
  ended.forEach((player) => player.stop())
  tracks.forEach((track) => players.delete(track))
  way.say({
    is: 'ended',
    pictures: ended.filter((player) => player instanceof PicturePlayer).map(({ seat, source }) => ({ seat, source })),
  })
}

export function stopReceiving() {
  players.forEach((player) => player.stop())
  players.clear()
}

/** A track that comes from now on. */
export function introduce(track: Introduced) {
  players.get(track.track)?.stop()
  players.set(track.track, track.what.layer === 'none' ? new SoundPlayer(track) : new PicturePlayer(track))
}

export function takeFrames(message: ArrayBuffer) {
  for (const frame of readFrames(message)) {
    const player = players.get(frame.track)
    if (!player) continue
    player.lastAt = performance.now()
    player.take(frame)
  }
}

const heard = new Map<number, number>()

/** How loud each is now, in -dBov. Who is not heard any more falls silent once, and is then left out. */
export function takeLevels(): (readonly [seat: number, level: number])[] {
  const levels = [...heard]
  for (const [seat, level] of levels) {
    if (level === 127) heard.delete(seat)
    else heard.set(seat, 127)
  }
  return levels
}
