import { clsx } from 'clsx'
import { memo, useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { MessageRow } from '../contract.generated'
import { timeOfDay } from '../i18n'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { piecesOf } from './links'

/** A message with who wrote it, to whom, and what may be done with it. */
export const Message = memo(function Message({ row, found = false }: { row: MessageRow; found?: boolean }) {
  const { t } = useTranslation()
  const self = useLive((state) => state.me?.seat)
  const keeps = useLive((state) => state.me?.may.includes('keepChat') ?? false)
  const putUp = useLive((state) => state.sitting?.chat.putUp?.number === row.number)
  const [editing, setEditing] = useState<string | null>(null)
  const own = row.from === self
  const elsewhere = useLive(({ me, sitting }) => {
    const here = sitting?.rooms.open.find((room) => room.number === me?.room)
    return row.room !== null && (here?.name || here?.ordinal.toString()) !== row.room
  })
  const looks =
    row.to.reach === 'everyone'
      ? 'border-l-line'
      : row.to.reach === 'bench'
        ? 'border-l-felt-ink bg-felt-soft'
        : 'border-l-plum bg-plum-soft'
  const save = () => {
    if (editing === null) return
    void wish({ do: 'editMessage', message: row.number, text: editing }).then((done) => done && setEditing(null))
  }
  return (
    <article
      aria-label={t('chat.messageOf', { name: row.name ?? t('chat.somebody') })}
      className={`group relative border-l-4 px-2.5 py-1.5 ${looks}`}
      data-message={row.number}
      data-private={row.to.reach === 'everyone' ? undefined : true}
    >
      <p className="flex items-baseline gap-1.5 text-[0.781rem] text-ink2">
        <b className="overflow-hidden text-[0.844rem] font-semibold text-ellipsis whitespace-nowrap text-ink">
          {own ? t('chat.you') : (row.name ?? t('chat.somebody'))}
        </b>
        {row.role !== 'attendee' && !own && row.to.reach === 'everyone' && <span>{t(`role.${row.role}`)}</span>}
        {row.to.reach !== 'everyone' && (
          <span className={`whitespace-nowrap ${row.to.reach === 'one' ? 'text-plum' : 'text-felt-ink'}`}>
            {row.to.reach === 'bench'
              ? t('chat.toBench')
              : row.to.seat === self
                ? t('chat.toYou')
                : t('chat.toName', { name: row.toName })}
          </span>
        )}
        {elsewhere && (
          <span className="overflow-hidden text-ellipsis whitespace-nowrap">{t('rooms.inRoom', { room: row.room })}</span>
        )}
        <time className="ml-auto pl-1 whitespace-nowrap">{timeOfDay(row.at)}</time>
      </p>
      {row.deleted !== 'none' ? (
        <p className="text-[0.875rem] text-ink2 italic">{t(`chat.deleted.${row.deleted}`)}</p>
      ) : editing !== null ? (
        <form
          className="mt-1 flex flex-col gap-1.5"
          onSubmit={(event) => {
            event.preventDefault()
            save()
          }}
        >
          <textarea
            aria-label={t('chat.edit')}
            value={editing}
            rows={2}
            onChange={(e) => setEditing(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && !e.shiftKey) {
                e.preventDefault()
                save()
              } else if (e.key === 'Escape') setEditing(null)
            }}
            className="w-full rounded-sm border border-edge bg-raised p-1.5 text-[0.875rem]"
          />
          <span className="flex gap-2">
            <Button small look="primary" type="submit">
              {t('common.save')}
            </Button>
            <Button small onClick={() => setEditing(null)}>
              {t('common.cancel')}
            </Button>
          </span>
        </form>
      ) : (
        <>
          {row.question !== 'none' && (
            <p className={`text-[0.781rem] font-semibold ${row.question === 'asked' ? 'text-brass-ink' : 'text-moss'}`}>
              {t(`chat.question.${row.question}`)}
              {putUp && ` · ${t('chat.isUp')}`}
            </p>
          )}
          <p className="text-[0.906rem] leading-snug break-words whitespace-pre-wrap">
            {piecesOf(row.text).map((piece, at) =>
              piece.href ? (
                <a
                  key={at}
                  href={piece.href}
                  target="_blank"
                  rel="noopener noreferrer nofollow"
                  className="underline underline-offset-2"
                >
                  {piece.text}
                </a>
              ) : (
                piece.text
              ),
            )}
            {row.edited && <span className="text-[0.781rem] text-ink2"> {t('chat.edited')}</span>}
          </p>
          {!found && (own || (keeps && row.to.reach !== 'one')) && (
            <p
              className={clsx(
                'absolute right-1 bottom-0 flex flex-wrap justify-end gap-x-2.5 border border-line bg-raised px-2',
                'opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 pointer-coarse:static',
                'pointer-coarse:border-0 pointer-coarse:bg-transparent pointer-coarse:px-0',
                'pointer-coarse:opacity-100',
              )}
            >
              {keeps && row.to.reach !== 'one' && (
                <>
                  <Act
                    onClick={() =>
                      void wish({
                        do: 'markQuestion',
                        message: row.number,
                        to: row.question === 'asked' ? 'answered' : row.question === 'none' ? 'asked' : 'none',
                      })
                    }
                  >
                    {t(
                      row.question === 'asked'
                        ? 'chat.markAnswered'
                        : row.question === 'none'
                          ? 'chat.markQuestion'
                          : 'chat.unmark',
                    )}
                  </Act>
                  <Act onClick={() => void wish({ do: 'putUp', message: putUp ? null : row.number })}>
                    {t(putUp ? 'chat.takeDown' : 'chat.putUp')}
                  </Act>
                </>
              )}
              {own && <Act onClick={() => setEditing(row.text)}>{t('chat.edit')}</Act>}
              <Act onClick={() => void wish({ do: 'deleteMessage', message: row.number })}>
                {t(own ? 'chat.delete' : 'chat.remove')}
              </Act>
            </p>
          )}
        </>
      )}
    </article>
  )
})

const Act = ({ children, onClick }: { children: string; onClick: () => void }) => (
  <button
    onClick={onClick}
    className={clsx(
      'min-h-6 text-[0.781rem] font-semibold text-felt-ink underline decoration-line decoration-2',
      'underline-offset-4 hover:decoration-current',
    )}
  >
    {children}
  </button>
)
