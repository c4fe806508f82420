import { useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { timeOfDay } from '../i18n'
import { useNow } from '../live/time'
import { Button } from '../ui/Button'
import { Words } from '../ui/Field'
import { addNote, changeNote, longestNote, notesAsText, notesOf, useNotes, type Note } from './notes'
import { saveFile } from '../ui/saveFile'

/** One's own notes, each with the moment at which writing it began. Nobody else has them. */
export function NotesSide({ sitting, title }: { sitting: string; title: string }) {
  const { t } = useTranslation()
  const notes = useNotes((state) => state[sitting]) ?? notesOf(sitting)
  const now = useNow()
  const [text, setText] = useState('')
  const [began, setBegan] = useState<number | null>(null)
  const [full, setFull] = useState(false)
  const box = useRef<HTMLFormElement>(null)
  const write = (words: string) => {
    setBegan(words.trim() === '' ? null : (began ?? now))
    setText(words)
  }
  const add = () => {
    if (text.trim() === '') return
    setFull(!addNote(sitting, began ?? now, text))
    setText('')
    setBegan(null)
  }
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 px-3 py-2">
        <h2 className="flex-1 font-serif text-[1.062rem] font-semibold">{t('notes.title')}</h2>
        {notes.length > 0 && (
          <>
            <Button small onClick={() => save(title, notes, false)}>
              {t('notes.saveText')}
            </Button>
            <Button small onClick={() => save(title, notes, true)}>
              {t('notes.saveMarkdown')}
            </Button>
          </>
        )}
      </div>
      <ol className="min-h-0 flex-1 overflow-auto" aria-label={t('notes.title')}>
        {notes.length === 0 && <li className="px-3 text-[0.875rem] text-ink2">{t('notes.none')}</li>}
        {notes.map((one) => (
          <Row key={one.id} sitting={sitting} note={one} />
        ))}
      </ol>
      <form
        ref={box}
        className="flex flex-col gap-2 border-t border-line p-3"
        onSubmit={(event) => {
          event.preventDefault()
          add()
        }}
      >
        <Words
          label={began === null ? t('notes.new') : t('notes.newAt', { time: timeOfDay(began) })}
          rows={3}
          maxLength={longestNote}
          value={text}
          onChange={(e) => write(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter' || e.shiftKey || e.nativeEvent.isComposing) return
            e.preventDefault()
            add()
          }}
        />
        {full && (
          <p role="alert" className="text-[0.844rem] font-medium text-brick">
            {t('notes.full')}
          </p>
        )}
        <p className="flex items-center gap-3 text-[0.812rem] text-ink2">
          <span className="flex-1">{t('notes.private')}</span>
          <Button small look="primary" type="submit" disabled={text.trim() === ''}>
            {t('notes.add')}
          </Button>
        </p>
      </form>
    </div>
  )
}

function Row({ sitting, note }: { sitting: string; note: Note }) {
  const { t } = useTranslation()
  const [edited, setEdited] = useState<string | null>(null)
  const done = () => {
    if (edited !== null) changeNote(sitting, note.id, edited)
    setEdited(null)
  }
  return (
    <li className="border-b border-line px-3 py-1.5">
      <p className="flex items-center gap-2 text-[0.812rem] text-ink2">
        <span className="flex-1">{timeOfDay(note.at)}</span>
        {edited === null && (
          <Button
            small
            look="text"
            aria-label={t('notes.changeAt', { time: timeOfDay(note.at) })}
            onClick={() => setEdited(note.text)}
          >
            {t('notes.change')}
          </Button>
        )}
      </p>
      {edited === null ? (
        <p className="text-[0.938rem] whitespace-pre-wrap">{note.text}</p>
      ) : (
        <div className="flex flex-col gap-1.5">
          <Words
            label={t('notes.changeAt', { time: timeOfDay(note.at) })}
            rows={3}
            maxLength={longestNote}
            value={edited}
            onChange={(e) => setEdited(e.target.value)}
          />
          <p className="flex gap-2">
            <Button small look="primary" onClick={done}>
              {t(edited.trim() === '' ? 'common.remove' : 'notes.keep')}
            </Button>
            <Button small onClick={() => setEdited(null)}>
              {t('common.cancel')}
            </Button>
          </p>
        </div>
      )}
    </li>
  )
}

function save(title: string, notes: readonly Note[], markdown: boolean) {
  const text = notesAsText(title, notes, timeOfDay, markdown)
  saveFile(new Blob([text], { type: markdown ? 'text/markdown' : 'text/plain' }), markdown ? 'notes.md' : 'notes.txt')
}
