import { create } from 'zustand'
import { useLive } from '../live/store'
import { RecordedSound } from './recordedSound'
import captureUrl from './capture.worklet.ts?worker&url'
import { openCamera, openMicrophone, toSpeaker, type DeviceFailure } from './devices'
import type { FromWorker, Source, ToWorker } from './messages'
import playbackUrl from './playback.worklet.ts?worker&url'
import { profile } from './profile'

/** What the page shows of media: forgettable, and apart from the server's state. */
export const useMedia = create<{
  up: boolean
  /** The media socket broke and is being opened anew. */
  interrupted: boolean
  /** The connection carries less than all pictures need. */
  slow: boolean
  /** Blocked until somebody clicks; silent when it does not start even then, as without a sound device. */
  sound: 'on' | 'blocked' | 'silent'
  speaker: number | null
  ownCamera: MediaStream | null
  /** One's own screen as the browser gives it. */
  ownScreen: MediaStream | null
  /** It is sent for its movement rather than for its detail. */
  screenIsSmooth: boolean
  /** The browser gave its sound, too, and it is sent. */
  screenHasSound: boolean
  screenSounds: boolean
  /** Samples come out of the microphone; null while that is not known yet. */
  sounds: boolean | null
  failure: { camera: DeviceFailure | null; microphone: DeviceFailure | 'Mute' | null }
}>(() => ({
  up: false,
  interrupted: false,
  slow: false,
  sound: 'on',
  speaker: null,
  ownCamera: null,
  ownScreen: null,
  screenIsSmooth: false,
  screenHasSound: false,
  screenSounds: true,
  sounds: null,
  failure: { camera: null, microphone: null },
}))

export interface Diagnostics {
  /** Pictures decoded, by seat. */
  pictures: Record<number, number>
  /** Loudness of each voice as it was last played, root mean square, 0 to 1. */
  played: Record<number, number>
}

type Ticket = () => Promise<string | null>

/** Looks, one a second, at a microphone of which nothing comes: until it is said, and until it is turned off. */
const [looksUntilMute, looksUntilClosed] = [3, 8]

/** After a click the sound starts within this many milliseconds, or something is wrong. */
const silentAfter = 3000

/** Captures, sends, receives and plays. One for the page; the sitting's state tells it what to do. */
class Engine {
  private worker: Worker | null = null
  private context: AudioContext | null = null
  private ticket: Ticket | null = null
  private retry: ReturnType<typeof setTimeout> | undefined
  private tries = 0
  private cameraVideo: HTMLVideoElement | null = null
  private microphone: { stream: MediaStream; source: MediaStreamAudioSourceNode } | null = null
  private microphoneWanted = false
  private cameraWanted = false
  /** Counts every turning on and off, so that a device the browser gives late, or twice, is let go again. */
  private microphoneTurn = 0
  private cameraTurn = 0
  /** What the worker reads: a copy of the camera's track, which has to be stopped by itself. */
  private cameraCopy: MediaStreamTrack | null = null
  private screenVideo: HTMLVideoElement | null = null
  private screenSound: MediaStreamAudioSourceNode | null = null
  private whenHeld: (() => void) | null = null
  private readonly canvases = new Map<string, { seat: number; source: Source; on: Set<HTMLCanvasElement> }>()
  private readonly newest = new Map<string, VideoFrame>()
  /** A screen that stands still sends nothing more, so what it showed last is kept for a canvas that comes later. */
  private readonly still = new Map<string, VideoFrame>()
  private readonly levels = new Map<number, Set<(level: number) => void>>()
  private readonly diagnostics: Diagnostics = { pictures: {}, played: {} }
  private painting = false
  /** What a recording on this machine gets to hear. */
  readonly recorded = new RecordedSound()
  private wishing = false

  constructor() {
    window.holdCourtDiagnostics = () => this.diagnostics
  }

  /** Opens the media socket, and again whenever it breaks. */
  connect(ticket: Ticket) {
    this.ticket = ticket
    this.tries = 0
    this.start()
    void this.open()
  }

  disconnect() {
    this.ticket = null
    clearTimeout(this.retry)
    this.post({ do: 'close' })
    this.setMicrophone(false)
    this.setCamera(false)
    this.stopScreen()
    useMedia.setState({ up: false, interrupted: false, slow: false, speaker: null })
  }

  /** Call inside a click: browsers keep the sound off until the reader has done something. */
  allowSound() {
    this.start()
    const context = this.context
    void context?.resume()
    setTimeout(() => {
      if (context?.state === 'suspended' && context === this.context) useMedia.setState({ sound: 'silent' })
    }, silentAfter)
  }

  /** Opens or closes the microphone at once. */
  setMicrophone(on: boolean) {
    if (this.microphoneWanted === on) return
    this.microphoneWanted = on
    if (on) void this.startMicrophone()
    else this.stopMicrophone()
  }

  setCamera(on: boolean) {
    if (this.cameraWanted === on) return
    this.cameraWanted = on
    if (on) void this.startCamera()
    else this.stopCamera()
  }

  /** Takes up devices chosen anew. */
  changeDevices() {
    if (this.context) toSpeaker(this.context)
    if (this.microphoneWanted) {
      this.stopMicrophone()
      void this.startMicrophone()
    }
    if (this.cameraWanted) {
      this.stopCamera()
      void this.startCamera()
    }
  }

  /**
   * Lets the reader choose a screen, a window or a tab.
   *
   * @returns null when nothing was chosen, or the browser did not let it
   */
  async pickScreen(): Promise<MediaStream | null> {
    return navigator.mediaDevices
      .getDisplayMedia({
        video: { width: { max: 1920 }, height: { max: 1080 }, frameRate: { max: 30 } },
        // As it is, and not made ready as a voice would be.
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 2 },
      })
      .catch(() => null)
  }

  /** Sends what was chosen, as far as the sitting lets it, until it ends by itself or is stopped. */
  startScreen(stream: MediaStream, onEnd: () => void) {
    this.stopScreen()
    this.start()
    const track = stream.getVideoTracks()[0]!
    track.contentHint = 'text'
    track.onended = () => {
      if (useMedia.getState().ownScreen !== stream) return
      this.stopScreen()
      onEnd()
    }
    if ('MediaStreamTrackProcessor' in window) {
      const frames = new MediaStreamTrackProcessor({ track, maxBufferSize: 2 }).readable
      this.post({ do: 'screen', frames }, [frames])
    } else {
      this.screenVideo = this.readThroughVideo(
        stream,
        (video) => this.screenVideo === video,
        (frame) => this.post({ do: 'screenFrame', frame }, [frame]),
      )
    }
    useMedia.setState({ ownScreen: stream, screenHasSound: stream.getAudioTracks().length > 0 })
    void this.sendSoundOf(stream)
  }

  /** What the screen sounds like, where the browser gave it, goes along with it. */
  private async sendSoundOf(stream: MediaStream) {
    const context = this.context
    const [track] = stream.getAudioTracks()
    if (!context || !track) return
    await context.audioWorklet.addModule(captureUrl).catch(() => undefined)
    if (useMedia.getState().ownScreen !== stream) return
    this.screenSound = context.createMediaStreamSource(new MediaStream([track]))
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0, processorOptions: { channels: 2 } })
    const { port1, port2 } = new MessageChannel()
    node.port.postMessage(port1, [port1])
    this.screenSound.connect(node)
    this.post({ do: 'screenSound', port: port2 }, [port2])
  }

  /** With its sound, or without. */
  letScreenSound(on: boolean) {
    useMedia
      .getState()
      .ownScreen?.getAudioTracks()
      .forEach((track) => (track.enabled = on))
    useMedia.setState({ screenSounds: on })
  }

  stopScreen() {
    stop(useMedia.getState().ownScreen)
    this.screenSound?.disconnect()
    this.screenSound = null
    this.screenVideo = null
    this.post({ do: 'screen', frames: null })
    useMedia.setState({ ownScreen: null, screenIsSmooth: false, screenHasSound: false, screenSounds: true })
  }

  /** A film wants movement, a text detail. */
  favourMovement(on: boolean) {
    const track = useMedia.getState().ownScreen?.getVideoTracks()[0]
    if (track) track.contentHint = on ? 'motion' : 'text'
    this.post({ do: 'smooth', on })
    useMedia.setState({ screenIsSmooth: on })
  }

  /** Nothing more is sent of the screen, or it goes on. Resolves when what stands there then is on its way. */
  holdScreen(on: boolean): Promise<void> {
    this.post({ do: 'hold', on })
    return on ? new Promise((held) => (this.whenHeld = held)) : Promise.resolve()
  }

  /** Paints a seat's pictures onto a canvas until the returned function is called. */
  show(seat: number, canvas: HTMLCanvasElement, source: Source = 'camera'): () => void {
    const key = keyOf(seat, source)
    const canvases = this.canvases.get(key)?.on ?? new Set<HTMLCanvasElement>()
    this.canvases.set(key, { seat, source, on: canvases.add(canvas) })
    const still = this.still.get(key)
    if (still) paint(canvas, still)
    this.wishSoon()
    const watcher = new ResizeObserver(() => this.wishSoon())
    watcher.observe(canvas)
    return () => {
      watcher.disconnect()
      canvases.delete(canvas)
      if (canvases.size === 0) this.canvases.delete(key)
      this.wishSoon()
      // A moment later, since a tile that changes its place is taken away and put up again.
      setTimeout(() => !this.canvases.has(key) && this.forget(key), 1000)
    }
  }

  /** Tells a seat's loudness, 0 to 100, some times a second. */
  listen(seat: number, take: (level: number) => void): () => void {
    const takers = this.levels.get(seat) ?? new Set()
    this.levels.set(seat, takers.add(take))
    return () => {
      takers.delete(take)
      if (takers.size === 0) this.levels.delete(seat)
    }
  }

  /** Gives what is heard to a recording on this machine. */
  recordSound(take: (block: Float32Array<ArrayBuffer>) => void): Promise<() => void> {
    this.start()
    return this.recorded.start(this.context!, take)
  }

  private start() {
    if (this.worker) return
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => this.hear(data)
    this.worker = worker
    this.post({ do: 'profile', profile: profile() })
    const context = new AudioContext({ sampleRate: 48_000, latencyHint: 'interactive' })
    this.context = context
    const look = () =>
      useMedia.setState(({ sound }) => ({ sound: context.state !== 'suspended' ? 'on' : sound === 'on' ? 'blocked' : sound }))
    context.onstatechange = look
    look()
    toSpeaker(context)
    void context.resume()
    void this.startSpeaker(context)
  }

  private async startSpeaker(context: AudioContext) {
    await context.audioWorklet.addModule(playbackUrl)
    const node = new AudioWorkletNode(context, 'playback', {
      numberOfInputs: 0,
      numberOfOutputs: 2,
      outputChannelCount: [2, 2],
    })
    const { port1, port2 } = new MessageChannel()
    node.port.postMessage(port1, [port1])
    node.port.onmessage = ({ data }: MessageEvent<{ seat: number; rms: number }[]>) => {
      this.diagnostics.played = Object.fromEntries(data.map(({ seat, rms }) => [seat, rms]))
    }
    node.connect(context.destination)
    this.recorded.hears(node)
    this.post({ do: 'speaker', port: port2 }, [port2])
  }

  private async open() {
    const ticket = await this.ticket?.().catch(() => null)
    if (!this.ticket) return
    if (!ticket) return this.openLater()
    const url = new URL('/media', location.href)
    url.protocol = location.protocol === 'https:' ? 'wss:' : 'ws:'
    url.searchParams.set('ticket', ticket)
    this.post({ do: 'open', url: url.href })
  }

  private openLater() {
    useMedia.setState({ interrupted: true })
    clearTimeout(this.retry)
    this.retry = setTimeout(() => void this.open(), Math.min(5000, 500 * 2 ** this.tries++))
  }

  private hear(message: FromWorker) {
    switch (message.is) {
      case 'opened':
        this.tries = 0
        return useMedia.setState({ up: true, interrupted: false, slow: false })
      case 'closed':
        useMedia.setState({ up: false, speaker: null })
        if (this.ticket) this.openLater()
        return
      case 'ended':
        for (const { seat, source } of message.pictures) this.forget(keyOf(seat, source))
        return
      case 'picture': {
        const key = keyOf(message.seat, message.source)
        if (message.source === 'camera')
          this.diagnostics.pictures[message.seat] = (this.diagnostics.pictures[message.seat] ?? 0) + 1
        this.newest.get(key)?.close()
        this.newest.set(key, message.frame)
        return this.paintSoon()
      }
      case 'held':
        this.whenHeld?.()
        this.whenHeld = null
        return
      case 'speaker':
        return useMedia.setState({ speaker: message.seat })
      case 'slow':
        return useMedia.setState({ slow: message.slow })
      case 'levels': {
        const loud = new Map(message.voices.map(({ seat, level }) => [seat, level]))
        const own = useLive.getState().me?.seat
        if (own !== undefined) loud.set(own, message.own)
        this.levels.forEach((takers, seat) => takers.forEach((take) => take(loud.get(seat) ?? 0)))
      }
    }
  }

  private paintSoon() {
    if (this.painting) return
    this.painting = true
    requestAnimationFrame(() => {
      this.painting = false
      for (const [key, frame] of this.newest) {
        const shown = this.canvases.get(key)
        shown?.on.forEach((canvas) => paint(canvas, frame))
        if (shown?.source === 'screen') {
          this.still.get(key)?.close()
          this.still.set(key, frame)
        } else frame.close()
      }
      this.newest.clear()
    })
  }

  private forget(key: string) {
    for (const pictures of [this.newest, this.still]) {
      pictures.get(key)?.close()
      pictures.delete(key)
    }
  }

  private wishSoon() {
    if (this.wishing) return
    this.wishing = true
    setTimeout(() => {
      this.wishing = false
      const pictures = [...this.canvases.values()].map(({ seat, source, on }) => ({
        seat,
        source,
        height: Math.round(Math.max(...[...on].map((canvas) => canvas.clientHeight))),
      }))
      this.post({ do: 'wish', pictures })
    }, 50)
  }

  private async startMicrophone() {
    this.start()
    const context = this.context!
    const turn = ++this.microphoneTurn
    const isOver = () => turn !== this.microphoneTurn
    const stream = await openMicrophone().catch((failure: DeviceFailure) => (isOver() ? null : this.fail('microphone', failure)))
    if (!stream) return
    if (!isOver()) await context.audioWorklet.addModule(captureUrl).catch(() => undefined)
    if (isOver()) return stop(stream)
    const source = context.createMediaStreamSource(stream)
    const node = new AudioWorkletNode(context, 'capture', { numberOfOutputs: 0 })
    const { port1, port2 } = new MessageChannel()
    node.port.postMessage(port1, [port1])
    source.connect(node)
    this.post({ do: 'microphone', port: port2 }, [port2])
    this.microphone = { stream, source }
    this.recorded.has(source)
    useMedia.setState(({ failure }) => ({ failure: { ...failure, microphone: null } }))
    stream.getAudioTracks()[0]!.onended = () => isOver() || this.lose('microphone', 'Lost')
    this.watch(node.port, isOver)
  }

  /**
   * The worklet says twice a second that samples come. A browser without any sound device never starts its audio, and would show
   * a microphone as on that nobody hears. What is counted are looks, not seconds, since a busy page is late with both.
   */
  private watch(port: MessagePort, isOver: () => boolean) {
    let [missed, came] = [0, false]
    port.onmessage = () => {
      came = true
      if (!isOver() && useMedia.getState().sounds !== true) useMedia.setState({ sounds: true })
    }
    const looking = setInterval(() => {
      if (isOver()) return clearInterval(looking)
      missed = came ? 0 : missed + 1
      came = false
      if (missed === looksUntilMute) useMedia.setState({ sounds: false })
      if (missed === looksUntilClosed) this.lose('microphone', 'Mute')
    }, 1000)
  }

  private stopMicrophone() {
    this.microphoneTurn++
    this.microphone?.source.disconnect()
    stop(this.microphone?.stream)
    this.microphone = null
    useMedia.setState({ sounds: null })
  }

  private async startCamera() {
    const turn = ++this.cameraTurn
    const isOver = () => turn !== this.cameraTurn
    const stream = await openCamera().catch((failure: DeviceFailure) => (isOver() ? null : this.fail('camera', failure)))
    if (!stream) return
    if (isOver()) return stop(stream)
    this.start()
    const track = stream.getVideoTracks()[0]!
    track.onended = () => turn === this.cameraTurn && this.lose('camera', 'Lost')
    if ('MediaStreamTrackProcessor' in window) {
      this.cameraCopy = track.clone()
      const frames = new MediaStreamTrackProcessor({ track: this.cameraCopy as MediaStreamVideoTrack, maxBufferSize: 2 }).readable
      this.post({ do: 'camera', frames }, [frames])
    } else {
      this.cameraVideo = this.readThroughVideo(
        stream,
        (video) => this.cameraVideo === video,
        (frame) => this.post({ do: 'cameraFrame', frame }, [frame]),
      )
    }
    useMedia.setState(({ failure }) => ({ ownCamera: stream, failure: { ...failure, camera: null } }))
  }

  /**
   * The way for browsers without a track processor: a video element that is not shown, frame by frame. A page that is
   * not painted is told of no frames, and then sends one a second.
   */
  private readThroughVideo(
    stream: MediaStream,
    isHeld: (video: HTMLVideoElement) => boolean,
    take: (frame: VideoFrame) => void,
  ): HTMLVideoElement {
    const video = document.createElement('video')
    video.muted = true
    video.srcObject = stream
    void video.play()
    let timer: ReturnType<typeof setTimeout>
    const next = () => {
      clearTimeout(timer)
      video.cancelVideoFrameCallback(asked)
      if (!isHeld(video) || !stream.active) return
      if (video.readyState >= HTMLMediaElement.HAVE_CURRENT_DATA)
        take(new VideoFrame(video, { timestamp: performance.now() * 1000 }))
      wait()
    }
    let asked = 0
    const wait = () => {
      asked = video.requestVideoFrameCallback(next)
      timer = setTimeout(next, 1000)
    }
    wait()
    // Whoever asked for it holds it: an element that nothing holds may be collected while it plays.
    return video
  }

  private stopCamera() {
    this.cameraTurn++
    stop(useMedia.getState().ownCamera)
    this.cameraCopy?.stop()
    this.cameraCopy = null
    this.cameraVideo = null
    this.post({ do: 'camera', frames: null })
    useMedia.setState({ ownCamera: null })
  }

  /** It was on, and is no more of any use. */
  private lose(what: 'camera' | 'microphone', failure: DeviceFailure | 'Mute') {
    if (what === 'camera') this.stopCamera()
    else this.stopMicrophone()
    this.fail(what, failure)
  }

  private fail(what: 'camera' | 'microphone', failure: DeviceFailure | 'Mute') {
    if (what === 'camera') this.cameraWanted = false
    else this.microphoneWanted = false
    useMedia.setState((state) => ({ failure: { ...state.failure, [what]: failure } }))
    return null
  }

  private post(message: ToWorker, transfer: Transferable[] = []) {
    this.worker?.postMessage(message, transfer)
  }
}

const keyOf = (seat: number, source: string) => `${seat} ${source}`

function paint(canvas: HTMLCanvasElement, frame: VideoFrame) {
  if (canvas.width !== frame.displayWidth) canvas.width = frame.displayWidth
  if (canvas.height !== frame.displayHeight) canvas.height = frame.displayHeight
  canvas.getContext('2d', { alpha: false })?.drawImage(frame, 0, 0)
}

const stop = (stream: MediaStream | null | undefined) => stream?.getTracks().forEach((track) => track.stop())

export const media = new Engine()
