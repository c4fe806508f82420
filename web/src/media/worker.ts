import type { FromBrowser, ToBrowser } from '../contract.generated'
import type { FromWorker, ToWorker } from './messages'
import { endTracks, introduce, playBy, receiveBy, stopReceiving, takeFrames, takeLevels } from './receiving'
import {
  needKey,
  number,
  holdScreen,
  ownTracks,
  readScreen,
  smoothScreen,
  takeScreenFrame,
  readCamera,
  sendBy,
  takeCameraFrame,
  takeOwnLevel,
  takeScreenSound,
  takeSound,
  setProfile,
  want,
} from './sending'

// The encoders, the decoders and the socket live here, so that a busy page does not stop the sound.

let socket: WebSocket | null = null

const say = (message: FromWorker, transfer: Transferable[] = []) => self.postMessage(message, { transfer })
const tell = (message: FromBrowser) => socket?.readyState === WebSocket.OPEN && socket.send(JSON.stringify(message))

sendBy({
  send: (bytes) => {
    if (socket?.readyState === WebSocket.OPEN) socket.send(bytes)
  },
  waiting: () => socket?.bufferedAmount ?? 0,
})
receiveBy({ say, askForKey: (track) => tell({ type: 'askForKey', track }) })

function hear(message: ToBrowser) {
  switch (message.type) {
    case 'numbered':
      return number(message.tracks)
    case 'wanted':
      return want(message.tracks)
    case 'needKey':
      return needKey(message.track)
    case 'introduced':
      return introduce(message)
    case 'ended':
      return endTracks(message.tracks)
    case 'speaker':
      return say({ is: 'speaker', seat: message.seat })
    case 'carries':
      return say({ is: 'slow', slow: message.slow })
    case 'marked':
      tell({ type: 'echo', mark: message.mark })
  }
}

/** -60 dBov and below is nothing, full scale is 100. */
const shown = (level: number) => Math.max(0, Math.round(100 - level * (100 / 60)))

setInterval(() => {
  const [own, voices] = [takeOwnLevel(), takeLevels()]
  if (voices.length === 0 && own === 127) return
  say({ is: 'levels', own: shown(own), voices: voices.map(([seat, level]) => ({ seat, level: shown(level) })) })
}, 120)

let lastWish: FromBrowser | null = null

function open(url: string) {
  close()
  const opened = new WebSocket(url)
  socket = opened
  opened.binaryType = 'arraybuffer'
  opened.onopen = async () => {
    const tracks = await ownTracks()
    if (socket !== opened) return
    say({ is: 'opened' })
    tell({ type: 'describe', tracks })
    if (lastWish) tell(lastWish)
  }
  opened.onmessage = ({ data }: MessageEvent<string | ArrayBuffer>) => {
    if (typeof data === 'string') hear(JSON.parse(data) as ToBrowser)
    else takeFrames(data)
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
  number(null)
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
      return void setProfile(message.profile)
    case 'microphone':
      if (message.port) message.port.onmessage = ({ data }: MessageEvent<Float32Array>) => takeSound(data)
      return
    case 'camera':
      return void readCamera(message.frames)
    case 'cameraFrame':
      return takeCameraFrame(message.frame)
    case 'screen':
      return void readScreen(message.frames)
    case 'screenFrame':
      return takeScreenFrame(message.frame)
    case 'screenSound':
      message.port.onmessage = ({ data }: MessageEvent<Float32Array>) => takeScreenSound(data)
      return
    case 'hold':
      return void holdScreen(message.on).then(() => message.on && say({ is: 'held' }))
    case 'smooth':
      return smoothScreen(message.on)
    case 'speaker':
      return void playBy(message.port)
    case 'wish':
      lastWish = { type: 'show', pictures: message.pictures }
      tell(lastWish)
  }
}
