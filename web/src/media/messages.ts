import type { Profile } from './profile'

/** What the page says to the media worker. */
export type ToWorker =
  | { do: 'open'; url: string }
  | { do: 'close' }
  | { do: 'profile'; profile: Profile }
  | { do: 'microphone'; port: MessagePort | null }
  | { do: 'camera'; frames: ReadableStream<VideoFrame> | null }
  | { do: 'cameraFrame'; frame: VideoFrame }
  | { do: 'speaker'; port: MessagePort }
  | { do: 'wish'; pictures: { seat: number; height: number }[] }

/** What the media worker says to the page. */
export type FromWorker =
  | { is: 'opened' }
  | { is: 'closed' }
  | { is: 'picture'; seat: number; frame: VideoFrame }
  /** Nothing more comes of these. */
  | { is: 'ended'; seats: number[] }
  | { is: 'speaker'; seat: number | null }
  | { is: 'slow'; slow: boolean }
  /** How loud voices are now, 0 to 100; own: the microphone's. */
  | { is: 'levels'; own: number; voices: { seat: number; level: number }[] }
