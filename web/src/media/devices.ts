import { profile } from './profile'

/** Why a camera or microphone cannot be used: before it is there, or since it was pulled out. */
export type DeviceFailure = 'Refused' | 'Missing' | 'Taken' | 'Lost'

const remembered = (key: string) => localStorage.getItem(`device.${key}`) ?? ''

export const chosen = {
  get camera() {
    return remembered('camera')
  },
  set camera(id: string) {
    localStorage.setItem('device.camera', id)
  },
  get microphone() {
    return remembered('microphone')
  },
  set microphone(id: string) {
    localStorage.setItem('device.microphone', id)
  },
  get speaker() {
    return remembered('speaker')
  },
  set speaker(id: string) {
    localStorage.setItem('device.speaker', id)
  },
}

declare global {
  interface AudioContext {
    /** Of the Audio Output Devices API; not in every browser. */
    setSinkId?: (id: string) => Promise<void>
  }
}

/** Whether this browser lets a page choose where its sound goes. */
export const speakersDiffer = 'AudioContext' in window && 'setSinkId' in AudioContext.prototype

/** Sends sound to the chosen speaker; a speaker that is no longer there gives way to the usual one. */
export const toSpeaker = (context: AudioContext) => void context.setSinkId?.(chosen.speaker).catch(() => undefined)

/** A device that is no longer there gives way to the usual one. */
const prefer = (id: string) => (id ? { deviceId: { ideal: id } } : {})

export function openCamera(): Promise<MediaStream> {
  const { full } = profile()
  return open({
    video: {
      ...prefer(chosen.camera),
      width: { ideal: full.width },
      height: { ideal: full.height },
      frameRate: { ideal: full.framerate, max: 30 },
    },
  })
}

export function openMicrophone(): Promise<MediaStream> {
  const process = profile().echoCancelling
  return open({
    audio: {
      ...prefer(chosen.microphone),
      echoCancellation: process,
      noiseSuppression: process,
      autoGainControl: process,
      channelCount: 1,
    },
  })
}

/** @throws {DeviceFailure} */
async function open(wish: MediaStreamConstraints): Promise<MediaStream> {
  try {
    return await navigator.mediaDevices.getUserMedia(wish)
  } catch (error) {
    throw failureOf(error)
  }
}

function failureOf(error: unknown): DeviceFailure {
  switch (error instanceof Error ? error.name : '') {
    case 'NotAllowedError':
    case 'SecurityError':
      return 'Refused'
    case 'NotFoundError':
    case 'OverconstrainedError':
      return 'Missing'
    default:
      return 'Taken'
  }
}

export async function listDevices() {
  const all = await navigator.mediaDevices.enumerateDevices()
  const of = (kind: MediaDeviceKind) => all.filter((device) => device.kind === kind && device.deviceId !== '')
  return { cameras: of('videoinput'), microphones: of('audioinput'), speakers: of('audiooutput') }
}

/** What this browser lacks of what pictures and voices need; empty when nothing. */
export function missingAbilities(): string[] {
  const needed = {
    HTTPS: window.isSecureContext,
    getUserMedia: Boolean(navigator.mediaDevices as MediaDevices | undefined),
    VideoEncoder: 'VideoEncoder' in window,
    VideoDecoder: 'VideoDecoder' in window,
    AudioEncoder: 'AudioEncoder' in window,
    AudioDecoder: 'AudioDecoder' in window,
    AudioWorklet: 'AudioWorkletNode' in window,
  }
  return Object.entries(needed)
    .filter(([, there]) => !there)
    .map(([part]) => part)
}
