import { t } from 'i18next'
import { create } from 'zustand'
import { wish } from '../live/connection'
import { tell } from '../live/store'
import { media } from '../media/engine'
import { drawFilm, filmSize } from './draw'
import { lookForFilms, saveFilm } from './keptFilms'
import type { FromWriter, ToWriter } from './writing.worker'

const picturesASecond = 15
const rate = 48_000
/** What came later, or earlier, than this, in seconds, is put where it belongs. */
const slack = 0.12

/** What a browser lacks for a recording on its own machine, by the names of the sentences about it. */
export const lacks = () => [
  ...('storage' in navigator && 'getDirectory' in navigator.storage ? [] : ['files' as const]),
  ...('VideoEncoder' in window && 'OffscreenCanvas' in window ? [] : ['pictures' as const]),
  ...('AudioEncoder' in window ? [] : ['sound' as const]),
]

interface OwnFilmState {
  phase: 'off' | 'begins' | 'running' | 'paused' | 'ends'
  /** Milliseconds that are in it, up to the last pause. */
  recorded: number
  /** Since when it runs, by this page's own clock; null while it does not. */
  since: number | null
  name: string
}

export const useOwnFilm = create<OwnFilmState>(() => ({ phase: 'off', recorded: 0, since: null, name: '' }))

/** The stage whose picture is recorded; the page puts it up while it is needed. */
let stage: HTMLElement | null = null
let withNames = true
let withPictures = true
export function setStage(element: HTMLElement | null) {
  stage = element
}

interface Running {
  pause: (on: boolean) => void
  end: () => Promise<void>
}
let running: Running | null = null

const lasted = () => {
  const { recorded, since } = useOwnFilm.getState()
  return recorded + (since === null ? 0 : performance.now() - since)
}

/** A file of the browser's own folder that is written as it grows. */
async function open(name: string, onFailure: (why: string) => void) {
  const worker = new Worker(new URL('./writing.worker.ts', import.meta.url), { type: 'module' })
  const waiting = new Map<number, () => void>()
  let closed: () => void = () => undefined
  let next = 0
  const say = (message: ToWriter, transfer: Transferable[] = []) => worker.postMessage(message, transfer)
  await new Promise<void>((opened, failed) => {
    worker.onmessage = ({ data }: MessageEvent<FromWriter>) => {
      if (data.is === 'open') opened()
      else if (data.is === 'written') {
        waiting.get(data.id)?.()
        waiting.delete(data.id)
      } else if (data.is === 'closed') closed()
      else {
        failed(new Error(data.why))
        waiting.forEach((done) => done())
        waiting.clear()
        onFailure(data.why)
      }
    }
    say({ do: 'open', name })
  })
  return {
    write: (data: Uint8Array, position: number) => {
      const id = next++
      const copy = data.slice()
      return new Promise<void>((done) => {
        waiting.set(id, done)
        say({ do: 'write', id, data: copy, position }, [copy.buffer])
      })
    },
    close: async () => {
      await new Promise<void>((done) => {
        closed = done
        say({ do: 'close' })
        setTimeout(done, 5_000)
      })
      worker.terminate()
    },
  }
}

/** Begins a recording on this machine: one file, written while it goes on. */
export async function beginOwnFilm(title: string, film: { names: boolean; pictures: boolean }) {
  if (useOwnFilm.getState().phase !== 'off' || lacks().length > 0) return
  ;[withNames, withPictures] = [film.names, film.pictures]
  useOwnFilm.setState({ phase: 'begins', recorded: 0, since: null })
  if (!(await wish({ do: 'beginOwnRecording' }))) return useOwnFilm.setState({ phase: 'off' })
  try {
    running = await start(nameFor(title))
  } catch (error) {
    useOwnFilm.setState({ phase: 'off' })
    tell(t('ownRecording.couldNot', { why: error instanceof Error ? error.name : '' }), 'refusal')
    void wish({ do: 'endOwnRecording' })
  }
}

function nameFor(title: string) {
  const now = new Date()
  const part = (value: number) => String(value).padStart(2, '0')
  const day = [now.getFullYear(), now.getMonth() + 1, now.getDate()].map(part).join('-')
  const when = `${day} ${[now.getHours(), now.getMinutes(), now.getSeconds()].map(part).join('.')}`
  return `${title.replace(/[^\p{L}\p{N} _-]/gu, '').trim() || 'recording'} ${when}.webm`
}

async function start(name: string): Promise<Running> {
  const { AudioSample, AudioSampleSource, CanvasSource, Output, StreamTarget, WebMOutputFormat, canEncodeVideo } =
    await import('mediabunny')
  let broken = false
  const file = await open(name, (why) => {
    if (broken) return
    broken = true
    tell(t(why === 'QuotaExceededError' ? 'ownRecording.full' : 'ownRecording.brokeOff', { why }), 'refusal')
    void endOwnFilm()
  })
  const target = new StreamTarget(new WritableStream({ write: (chunk) => file.write(chunk.data, chunk.position) }))
  const output = new Output({ format: new WebMOutputFormat({ minimumClusterDuration: 1 }), target })
  const canvas = new OffscreenCanvas(filmSize.width, filmSize.height)
  const context = canvas.getContext('2d', { alpha: false })!
  const codec = (await canEncodeVideo('vp8', { ...filmSize })) ? 'vp8' : 'vp9'
  const pictures = withPictures ? new CanvasSource(canvas, { codec, bitrate: 1_500_000, keyFrameInterval: 2 }) : null
  const sound = new AudioSampleSource({ codec: 'opus', bitrate: 64_000 })
  if (pictures) output.addVideoTrack(pictures, { frameRate: picturesASecond })
  output.addAudioTrack(sound)
  await output.start()
  useOwnFilm.setState({ phase: 'running', since: performance.now(), recorded: 0, name })

  let drawing = false
  let lastPicture = -1
  const draw = async () => {
    if (drawing || broken || !stage || !pictures || useOwnFilm.getState().phase !== 'running') return
    drawing = true
    drawFilm(stage, context, withNames)
    // Never twice at one time, and never back.
    const at = Math.max(lasted() / 1000, lastPicture + 0.001)
    lastPicture = at
    await pictures.add(at, 1 / picturesASecond).catch(() => undefined)
    drawing = false
  }
  const beat = setInterval(() => void draw(), 1000 / picturesASecond)
  let heardUpTo = 0
  const put = (samples: Float32Array<ArrayBuffer>, at: number) => {
    const sample = new AudioSample({ data: samples, format: 'f32', numberOfChannels: 1, sampleRate: rate, timestamp: at })
    heardUpTo = at + samples.length / rate
    void sound
      .add(sample)
      .catch(() => undefined)
      .finally(() => sample.close())
  }
  const quiet = (to: number) => {
    // A player that comes to a gap would fall behind its pictures.
    while (to - heardUpTo > 0.02) put(new Float32Array(Math.min(rate, Math.round((to - heardUpTo) * rate))), heardUpTo)
  }
  const endSound = await media.recordSound((block) => {
    if (broken || useOwnFilm.getState().phase !== 'running') return
    const began = lasted() / 1000 - block.length / rate
    if (began - heardUpTo > slack) quiet(began)
    if (heardUpTo - began <= slack) put(block, heardUpTo)
  })
  return {
    pause: (on) => {
      const recorded = lasted()
      useOwnFilm.setState(
        on ? { phase: 'paused', recorded, since: null } : { phase: 'running', recorded, since: performance.now() },
      )
    },
    end: async () => {
      clearInterval(beat)
      endSound()
      quiet(lasted() / 1000)
      useOwnFilm.setState({ phase: 'ends', recorded: lasted(), since: null })
      if (broken) await output.cancel().catch(() => undefined)
      else await output.finalize().catch(() => undefined)
      await file.close()
    },
  }
}

export const pauseOwnFilm = (on: boolean) => running?.pause(on)

/** Ends it, and hands the file to the browser to save. */
export async function endOwnFilm() {
  const ends = running
  running = null
  if (!ends) return
  const { name } = useOwnFilm.getState()
  await ends.end()
  useOwnFilm.setState({ phase: 'off' })
  await lookForFilms()
  await saveFilm(name).catch(() => undefined)
}
