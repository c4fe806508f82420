// Makes the clips of the simulated people: drawn figures as VP8 in IVF, two layers and two moods each, and spoken
// sentences as Opus in Ogg with their words and the level of every 20 ms beside it. Nothing here shows or sounds like a real person.
// Needs Debian's chromium, ffmpeg and espeak-ng; run it from the repository's root: node tools/clips/make.mjs
// With the word `pictures` it makes the pictures alone, with `gauge` the shared screen alone; both need chromium only.
import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { createServer } from 'node:http'
import { tmpdir } from 'node:os'
import path from 'node:path'

const { chromium } = createRequire(path.resolve('tests/e2e/package.json'))('@playwright/test')
const out = 'src/HoldCourt.Server/StandIns/Extras/clips'
const figures = 16

const sentences = [
  [
    'The gauge at Withy Weir read point eight four metres this morning.',
    'We cleared two fallen alders below the ford last Saturday.',
    'The water was clear down to the gravel on both banks.',
  ],
  [
    'Shall we take the questions from the floor before the vote?',
    'Thank you, that is a good point and I have noted it.',
    'The minutes of the autumn meeting are in the papers.',
  ],
  [
    'We counted eleven otters on the Aller reach, three of them young.',
    'Someone has moved the marker stones near Sill Beck again.',
    'I would like to ask about the fence along the lower path.',
  ],
  [
    'My volunteers can look after Long Pool until the end of May.',
    'The bridge rail needs paint, and the far step is loose.',
    'It rained for four days, and still the level hardly rose.',
  ],
]
const voices = [
  { voice: 'en-gb', pitch: 38, speed: 150 },
  { voice: 'en-gb+f3', pitch: 52, speed: 158 },
  { voice: 'en-gb-scotland', pitch: 45, speed: 152 },
  { voice: 'en-gb+f2', pitch: 60, speed: 165 },
  { voice: 'en-us', pitch: 33, speed: 148 },
  { voice: 'en-gb+f4', pitch: 48, speed: 150 },
  { voice: 'en-gb-x-rp', pitch: 42, speed: 160 },
  { voice: 'en-us+f5', pitch: 56, speed: 155 },
]

const gaugeOnly = process.argv[2] === 'gauge'
const picturesOnly = gaugeOnly || process.argv[2] === 'pictures'
if (!picturesOnly) rmSync(out, { recursive: true, force: true })
mkdirSync(out, { recursive: true })
if (!picturesOnly)
  for (const [v, voice] of voices.entries())
    for (const [s, sentence] of sentences[v % sentences.length].entries()) speak(`v${v + 1}-${s + 1}`, voice, sentence)
await draw()

function speak(name, { voice, pitch, speed }, sentence) {
  const wav = path.join(tmpdir(), `${name}.wav`)
  writeFileSync(path.join(out, `${name}.txt`), `${sentence}\n`)
  execFileSync('espeak-ng', ['-v', voice, '-p', String(pitch), '-s', String(speed), '-w', wav, sentence])
  const shaped = ['-af', 'loudnorm=I=-20:TP=-3,aresample=48000', '-ac', '1']
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    wav,
    ...shaped,
    '-c:a',
    'libopus',
    '-b:a',
    '24k',
    '-vbr',
    'on',
    '-frame_duration',
    '20',
    '-application',
    'voip',
    '-bitexact',
    path.join(out, `${name}.opus`),
  ])
  const pcm = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', path.join(out, `${name}.opus`), '-f', 's16le', '-ar', '48000', '-ac', '1', '-'],
    { maxBuffer: 1 << 28 },
  )
  const packets = Number(
    execFileSync('ffprobe', [
      '-v',
      'error',
      '-count_packets',
      '-show_entries',
      'stream=nb_read_packets',
      '-of',
      'csv=p=0',
      path.join(out, `${name}.opus`),
    ]).toString(),
  )
  const levels = Buffer.alloc(packets, 127)
  for (let i = 0; i < packets; i++) {
    let sum = 0
    for (let s = i * 960; s < (i + 1) * 960; s++) sum += s * 2 + 1 < pcm.length ? (pcm.readInt16LE(s * 2) / 32768) ** 2 : 0
    levels[i] = Math.min(127, Math.max(0, Math.round(-10 * Math.log10(sum / 960 + 1e-13))))
  }
  writeFileSync(path.join(out, `${name}.levels`), levels)
}

async function draw() {
  // A secure context is needed for the encoder.
  const server = createServer((_, response) => response.setHeader('content-type', 'text/html').end('<!doctype html>')).listen(0)
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  })
  const page = await browser.newPage()
  await page.goto(`http://localhost:${server.address().port}/`)
  await page.addScriptTag({ content: readFileSync('tools/clips/figure.js', 'utf8') })
  await page.addScriptTag({ content: readFileSync('tools/clips/gauge.js', 'utf8') })
  const gauge = await page.evaluate(() => globalThis.encodeGauge())
  writeFileSync(
    path.join(out, 'screen-gauge.ivf'),
    ivf(
      gauge.map((frame) => Buffer.from(frame, 'base64')),
      await page.evaluate(() => globalThis.gaugeLayer),
    ),
  )
  for (let figure = 0; figure < (gaugeOnly ? 0 : figures); figure++)
    for (const mood of ['listen', 'talk'])
      // A key frame gets no more than its share of the bits: below 400 kbit/s the picture is coarse every two seconds.
      for (const layer of [
        { name: 'full', width: 640, height: 360, fps: 15, bitrate: 420_000 },
        { name: 'thumb', width: 160, height: 90, fps: 7.5, bitrate: 40_000 },
      ]) {
        const frames = await page.evaluate(
          ([figure, mood, layer]) => globalThis.encodeFigure(figure, mood, layer),
          [figure, mood, layer],
        )
        writeFileSync(
          path.join(out, `f${String(figure + 1).padStart(2, '0')}-${layer.name}-${mood}.ivf`),
          ivf(
            frames.map((frame) => Buffer.from(frame, 'base64')),
            layer,
          ),
        )
      }
  await browser.close()
  server.close()
}

function ivf(frames, { width, height, fps }) {
  const header = Buffer.alloc(32)
  header.write('DKIF', 0)
  header.writeUInt16LE(32, 6)
  header.write('VP80', 8)
  header.writeUInt16LE(width, 12)
  header.writeUInt16LE(height, 14)
  header.writeUInt32LE(fps * 2, 16)
  header.writeUInt32LE(2, 20)
  header.writeUInt32LE(frames.length, 24)
  return Buffer.concat([
    header,
    ...frames.flatMap((frame, i) => {
      const head = Buffer.alloc(12)
      head.writeUInt32LE(frame.length, 0)
      head.writeBigUInt64LE(BigInt(i * 2), 4)
      return [head, frame]
    }),
  ])
}
