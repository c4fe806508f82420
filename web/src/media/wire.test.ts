import { expect, test } from 'vitest'
import { service, levelOf, readFrames, writeFrame } from './wire'

const picture = (sequence: number, size: number) =>
  writeFrame(
    {
      service: service.camera,
      key: sequence === 0,
      track: 0x1234,
      sequence,
      level: 0,
      duration: 500,
      captureTime: 2 ** 40 + sequence,
    },
    new Uint8Array(size).fill(sequence),
  )

test('frames one after another in a message are read back, and a cut-off one is left out', () => {
  const message = new Uint8Array([...picture(0, 5), ...picture(1, 3), ...picture(2, 9).subarray(0, 20)])
  const frames = [...readFrames(message.buffer)]
  expect(
    frames.map(({ key, track, sequence, captureTime, data }) => ({ key, track, sequence, captureTime, data: [...data] })),
  ).toEqual([
    { key: true, track: 0x1234, sequence: 0, captureTime: 2 ** 40, data: [0, 0, 0, 0, 0] },
    { key: false, track: 0x1234, sequence: 1, captureTime: 2 ** 40 + 1, data: [1, 1, 1] },
  ])
})

test('the header is laid out as the server reads it', () => {
  const bytes = writeFrame(
    { service: 1, key: true, track: 0x0203, sequence: 0x04050607, level: 8, duration: 0x090a, captureTime: 0x0b0c0d },
    new Uint8Array([255]),
  )
  expect([...bytes]).toEqual([25, 0, 0, 0, 1, 1, 3, 2, 7, 6, 5, 4, 8, 0, 10, 9, 13, 12, 11, 0, 0, 0, 0, 0, 255])
})

test('level is 0 at full scale and 127 at silence', () => {
  expect(levelOf(new Float32Array(960).fill(1))).toBe(0)
  expect(levelOf(new Float32Array(960))).toBe(127)
  expect(levelOf(new Float32Array(960).fill(0.1))).toBe(20)
})
