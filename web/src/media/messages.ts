import type { Profile } from './profile'

/** Of somebody's pictures: the camera's, or the screen's. */
export type Source = 'camera' | 'screen'

/** What the page says to the media worker. */
export type ToWorker =
  | { do: 'open'; url: string }
  | { do: 'close' }
  | { do: 'profile'; profile: Profile }
  | { do: 'microphone'; port: MessagePort | null }
  | { do: 'camera'; frames: ReadableStream<VideoFrame> | null }
  | { do: 'cameraFrame'; frame: VideoFrame }
  | { do: 'screen'; frames: ReadableStream<VideoFrame> | null }
  | { do: 'screenFrame'; frame: VideoFrame }
  | { do: 'screenSound'; port: MessagePort }
  | { do: 'hold'; on: boolean }
  | { do: 'smooth'; on: boolean }
  | { do: 'speaker'; port: MessagePort }
  | { do: 'wish'; pictures: { seat: number; height: number; source: Source }[] }

/** What the media worker says to the page. */
export type FromWorker =
  | { is: 'opened' }
  | { is: 'closed' }
  | { is: 'picture'; seat: number; source: string; frame: VideoFrame }
  /** Nothing more comes of these. */
  | { is: 'ended'; pictures: { seat: number; source: string }[] }
  /** What the others see of the screen stands still from here on. */
  | { is: 'held' }
  | { is: 'speaker'; seat: number | null }
  | { is: 'slow'; slow: boolean }
  /** How loud voices are now, 0 to 100; own: the microphone's. */
  | { is: 'levels'; own: number; voices: { seat: number; level: number }[] }
