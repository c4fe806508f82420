import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { RecordingPage } from '../contract.generated'
import { clock } from '../i18n'

interface Props {
  page: RecordingPage
  length: number
  at: number
  onGo: (at: number) => void
}

const bars = 320

/** What is loud, drawn as bars; below them who speaks, a shade for each; chapters as strokes. A slider, moved by hand or by keys. */
export function TimeLine({ page, length, at, onGo }: Props) {
  const { t } = useTranslation()
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    const draw = () => {
      if (canvas.current) paint(canvas.current, page, length)
    }
    draw()
    const watcher = new ResizeObserver(draw)
    if (canvas.current) watcher.observe(canvas.current)
    const theme = matchMedia('(prefers-color-scheme: dark)')
    theme.addEventListener('change', draw)
    return () => {
      watcher.disconnect()
      theme.removeEventListener('change', draw)
    }
  }, [page, length])
  const chapter = page.chapters.findLast((one) => one.at <= at + 50)
  return (
    <div className="relative mt-2 h-16 border border-line bg-paper">
      <canvas ref={canvas} aria-hidden className="block size-full" />
      <span
        aria-hidden
        className="pointer-events-none absolute inset-y-0 w-0.5 bg-plum"
        style={{ left: `${length > 0 ? Math.min(100, (at / length) * 100) : 0}%` }}
      />
      <input
        type="range"
        aria-label={t('player.line')}
        aria-valuetext={`${t('player.at', { at: clock(at), length: clock(length) })}${chapter ? `, ${chapter.title}` : ''}`}
        min={0}
        max={Math.max(1, length)}
        step={1000}
        value={Math.min(at, length)}
        onChange={(e) => onGo(Number(e.target.value))}
        className="absolute inset-0 size-full cursor-pointer opacity-0 focus-visible:opacity-30"
      />
    </div>
  )
}

function paint(canvas: HTMLCanvasElement, page: RecordingPage, length: number) {
  const scale = devicePixelRatio || 1
  const [wide, high] = [canvas.clientWidth, canvas.clientHeight]
  canvas.width = wide * scale
  canvas.height = high * scale
  const context = canvas.getContext('2d')
  if (!context || length <= 0) return
  const style = getComputedStyle(canvas)
  const colour = (name: string) => style.getPropertyValue(`--color-${name}`)
  context.scale(scale, scale)
  const peaks = Uint8Array.from(atob(page.peaks), (letter) => letter.charCodeAt(0))
  const spokenHigh = 8
  const room = high - spokenHigh - 4
  context.fillStyle = colour('seat')
  for (let bar = 0; bar < bars; bar++) {
    const part = peaks.subarray(Math.floor((bar * peaks.length) / bars), Math.ceil(((bar + 1) * peaks.length) / bars))
    const loud = part.reduce((most, one) => Math.max(most, one), 0) / 255
    const tall = Math.max(1, Math.sqrt(loud) * room)
    context.fillRect((bar * wide) / bars, (room - tall) / 2 + 1, Math.max(1, wide / bars - 1), tall)
  }
  const names = [...new Set(page.spoken.map((one) => one.name))]
  const shades = ['felt-ink', 'plum', 'moss', 'brass-ink', 'edge']
  for (const one of page.spoken) {
    context.fillStyle = colour(shades[names.indexOf(one.name) % shades.length]!)
    const from = (one.from / length) * wide
    context.fillRect(from, high - spokenHigh, Math.max(1, ((one.to - one.from) / length) * wide - 0.5), spokenHigh)
  }
  context.fillStyle = colour('ink')
  for (const one of page.chapters) if (one.at > 0) context.fillRect((one.at / length) * wide, 0, 1, high)
}
