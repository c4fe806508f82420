import { clsx } from 'clsx'
import { useTranslation } from 'react-i18next'
import type { MarkColour } from '../contract.generated'
import { markWish } from '../live/connection'
import { Button } from '../ui/Button'
import { Panel } from '../ui/Panel'
import { colours } from './paint'
import { tools, useTools, widths, type Width } from './tools'

/** With what one draws, in words, below what one draws on. */
export function MarkTools({
  exhibit,
  page,
  keeps,
  save,
}: {
  exhibit: number
  page: number
  keeps: boolean
  /** Null where one may not look at all pages. */
  save: { picture: () => void; drawing: () => void; pages: string | null }
}) {
  const { t } = useTranslation()
  const { tool, colour, width } = useTools()
  const draws = tool !== 'erase' && tool !== 'move'
  return (
    <div
      role="toolbar"
      aria-label={t('marks.tools')}
      className={clsx(
        'flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line bg-paper px-2 py-1 text-[0.781rem]',
        // On a phone one line, which is pushed along.
        'max-md:flex-nowrap max-md:overflow-x-auto max-md:whitespace-nowrap max-md:*:shrink-0 max-md:*:flex-nowrap',
      )}
    >
      <span className="flex flex-wrap gap-1">
        {tools.map((one) => (
          <button
            key={one}
            aria-pressed={tool === one}
            onClick={() => useTools.setState({ tool: one })}
            className={clsx(
              'min-h-6.5 rounded-sm border px-1.5 font-semibold',
              tool === one ? 'border-felt bg-felt text-on-felt' : 'border-line text-felt-ink hover:bg-felt-soft',
            )}
          >
            {t(`marks.tool.${one}`)}
          </button>
        ))}
      </span>
      {draws && (
        <span role="radiogroup" aria-label={t('marks.colour')} className="flex gap-1">
          {(Object.keys(colours) as MarkColour[]).map((one) => (
            <button
              key={one}
              role="radio"
              aria-checked={colour === one}
              aria-label={t(`marks.colours.${one}`)}
              title={t(`marks.colours.${one}`)}
              onClick={() => useTools.setState({ colour: one })}
              className={clsx(
                'size-6 rounded-sm border border-edge',
                colour === one && 'outline-2 outline-offset-1 outline-felt-ink',
              )}
              style={{ background: colours[one] }}
            />
          ))}
        </span>
      )}
      {draws && tool !== 'point' && (
        <select
          aria-label={t('marks.width')}
          value={width}
          onChange={(event) => useTools.setState({ width: event.target.value as Width })}
          className="min-h-6.5 rounded-sm border border-edge bg-raised px-1"
        >
          {(Object.keys(widths) as Width[]).map((one) => (
            <option key={one} value={one}>
              {t(`marks.widths.${one}`)}
            </option>
          ))}
        </select>
      )}
      <span className="ml-auto flex flex-wrap gap-1">
        <Button small onClick={() => void markWish(exhibit, { mark: 'stepBack', again: false })}>
          {t('marks.undo')}
        </Button>
        <Button small onClick={() => void markWish(exhibit, { mark: 'stepBack', again: true })}>
          {t('marks.redo')}
        </Button>
        <Button small onClick={() => void markWish(exhibit, { mark: 'clear', page, own: true })}>
          {t('marks.clearOwn')}
        </Button>
        {keeps && (
          <Button small onClick={() => void markWish(exhibit, { mark: 'clear', page, own: false })}>
            {t('marks.clearAll')}
          </Button>
        )}
        <Panel title={t('marks.save')} side="top" align="end" trigger={<Button small>{t('marks.save')}</Button>}>
          <div className="flex flex-col items-start gap-2">
            <Button onClick={save.picture}>{t('marks.savePicture')}</Button>
            <Button onClick={save.drawing}>{t('marks.saveDrawing')}</Button>
            {save.pages && (
              <a href={save.pages} download className="text-[0.875rem] font-semibold text-felt-ink underline underline-offset-4">
                {t('marks.savePages')}
              </a>
            )}
          </div>
        </Panel>
      </span>
    </div>
  )
}
