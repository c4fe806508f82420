/** The frame header of the media socket; the same 24 bytes as FrameHeader in the core. */
export const headerSize = 24
/** How frames are treated on their way. */
export const service = { voice: 1, camera: 2, screen: 3, sound: 4 } as const

export interface Frame {
  service: number
  key: boolean
  track: number
  sequence: number
  level: number
  captureTime: number
  data: Uint8Array
}

export function writeFrame(frame: Omit<Frame, 'data'> & { duration: number }, data: Uint8Array): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(headerSize + data.length)
  const view = new DataView(bytes.buffer)
  view.setUint32(0, bytes.length, true)
  view.setUint8(4, frame.service)
  view.setUint8(5, frame.key ? 1 : 0)
  view.setUint16(6, frame.track, true)
  view.setUint32(8, frame.sequence, true)
  view.setUint8(12, frame.level)
  view.setUint16(14, frame.duration, true)
  view.setBigUint64(16, BigInt(Math.max(0, Math.round(frame.captureTime))), true)
  bytes.set(data, headerSize)
  return bytes
}

/** A coded picture as a frame of its track. */
export function writePicture(chunk: EncodedVideoChunk, of: { service: number; track: number; sequence: number }) {
  const data = new Uint8Array(chunk.byteLength)
  chunk.copyTo(data)
  return writeFrame({ ...of, key: chunk.type === 'key', level: 0, duration: 0, captureTime: chunk.timestamp }, data)
}

/** Reads the frames of a message; what is cut off at the end is left out. */
export function* readFrames(buffer: ArrayBuffer): Generator<Frame> {
  const view = new DataView(buffer)
  for (let at = 0; at + headerSize <= buffer.byteLength;) {
    const length = view.getUint32(at, true)
    if (length < headerSize || at + length > buffer.byteLength) return
    yield {
      service: view.getUint8(at + 4),
      key: (view.getUint8(at + 5) & 1) !== 0,
      track: view.getUint16(at + 6, true),
      sequence: view.getUint32(at + 8, true),
      level: view.getUint8(at + 12),
      captureTime: Number(view.getBigUint64(at + 16, true)),
      data: new Uint8Array(buffer, at + headerSize, length - headerSize),
    }
    at += length
  }
}

/** Loudness of samples in -dBov (RFC 6464): 0 is full scale, 127 is silence. */
export function levelOf(samples: Float32Array): number {
  let sum = 0
  for (const sample of samples) sum += sample * sample
  const db = -10 * Math.log10(sum / samples.length + 1e-13)
  return Math.min(127, Math.max(0, Math.round(db)))
}
