import { useTranslation } from 'react-i18next'
import type { RecordingPage } from '../contract.generated'
import { clock } from '../i18n'
import { notesOf, placeIn } from './notes'

/** One's own notes of a sitting that was recorded: each leads to its place in the film. */
export function NotesInFilm({ page, onGo }: { page: RecordingPage; onGo: (at: number) => void }) {
  const { t } = useTranslation()
  const notes = notesOf(page.sitting)
    .map((one) => ({ ...one, place: placeIn(page.stretches, one.at) }))
    .filter((one): one is typeof one & { place: number } => one.place !== null)
  if (notes.length === 0) return null
  return (
    <section aria-label={t('notes.title')}>
      <h2 className="mb-1 font-serif text-[1.062rem] font-semibold">{t('notes.title')}</h2>
      <ol className="max-h-56 overflow-auto border border-line bg-paper">
        {notes.map((one) => (
          <li key={one.id}>
            <button
              className="flex min-h-7 w-full items-baseline gap-3 px-2.5 py-0.5 text-left text-[0.875rem] hover:bg-linen"
              onClick={() => onGo(one.place)}
            >
              <span className="w-14 shrink-0 text-[0.812rem] text-ink2 tabular-nums">{clock(one.place)}</span>
              <span className="min-w-0 whitespace-pre-wrap">{one.text}</span>
            </button>
          </li>
        ))}
      </ol>
    </section>
  )
}
