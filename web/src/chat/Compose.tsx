import { useId, useMemo } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, Recipient } from '../contract.generated'
import { wish } from '../live/connection'
import { useLive } from '../live/store'
import { Button } from '../ui/Button'
import { giveBack, takeDraft, useChat } from './store'
import { Unsent } from './Unsent'

/** The most that the server takes, in UTF-16 units. */
const longest = 4000

const keyOf = (to: Recipient) => (to.reach === 'one' ? String(to.seat) : to.reach)
const recipientOf = (key: string): Recipient =>
  key === 'everyone' || key === 'bench' ? { reach: key, seat: null } : { reach: 'one', seat: Number(key) }

/** Where one writes. To whom it goes stands in words and colour, and only the reader changes it. */
export function Compose({ me }: { me: MeRow }) {
  const { t } = useTranslation()
  const id = useId()
  const { to, draft, question } = useChat()
  const seats = useLive((state) => state.seats)
  const people = useMemo(
    () =>
      [...seats.values()]
        .filter((seat) => seat.place === 'seated' && seat.id !== me.seat)
        .sort((a, b) => a.name.localeCompare(b.name)),
    [seats, me.seat],
  )
  const may = {
    everyone: me.may.includes('writeToAll'),
    bench: me.may.includes('writeToBench'),
    one: me.may.includes('writeToOne'),
  }
  if (!may.everyone && !may.bench && !may.one)
    return <p className="border-t border-line px-3 py-3 text-[0.875rem] text-ink2">{t('chat.off')}</p>
  const gone = to.reach === 'one' && !people.some((seat) => seat.id === to.seat)
  const allowed = may[to.reach] && !gone
  const name = to.reach === 'one' ? (seats.get(to.seat ?? 0)?.name ?? '') : ''
  const send = async () => {
    if (!allowed || draft.trim() === '') return
    const sent = takeDraft()
    if (!(await wish({ do: 'write', to: sent.to, text: sent.draft, question: sent.question }))) giveBack(sent)
  }
  const looks = { everyone: 'border-l-line', bench: 'border-l-felt-ink bg-felt-soft', one: 'border-l-plum bg-plum-soft' }[
    to.reach
  ]
  return (
    <form
      className={`flex flex-col gap-1.5 border-t border-l-[6px] border-t-line px-2.5 py-2.5 ${looks}`}
      onSubmit={(event) => {
        event.preventDefault()
        void send()
      }}
    >
      <Unsent />
      <div className="flex items-center gap-2">
        <label htmlFor={`${id}-to`} className="text-[0.812rem] font-semibold">
          {t('chat.to')}
        </label>
        <select
          id={`${id}-to`}
          value={keyOf(to)}
          onChange={(e) => useChat.setState({ to: recipientOf(e.target.value) })}
          className="min-h-7 min-w-0 flex-1 rounded-sm border border-edge bg-raised px-1.5 text-[0.844rem] font-semibold"
        >
          {(may.everyone || to.reach === 'everyone') && <option value="everyone">{t('chat.everyone')}</option>}
          {(may.bench || to.reach === 'bench') && <option value="bench">{t('chat.bench')}</option>}
          {gone && <option value={keyOf(to)}>{t('chat.gone')}</option>}
          {may.one && (
            <optgroup label={t('chat.onePerson')}>
              {people.map((seat) => (
                <option key={seat.id} value={seat.id}>
                  {seat.name}
                </option>
              ))}
            </optgroup>
          )}
        </select>
      </div>
      <textarea
        id={`${id}-text`}
        aria-label={
          to.reach === 'one' ? t('chat.writeToName', { name }) : t(to.reach === 'bench' ? 'chat.writeToBench' : 'chat.writeToAll')
        }
        placeholder={
          to.reach === 'one' ? t('chat.writeToName', { name }) : t(to.reach === 'bench' ? 'chat.writeToBench' : 'chat.writeToAll')
        }
        rows={2}
        value={draft}
        onChange={(e) => useChat.setState({ draft: e.target.value })}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || e.shiftKey || e.nativeEvent.isComposing) return
          e.preventDefault()
          void send()
        }}
        className="w-full rounded-sm border border-edge bg-raised p-1.5 text-[0.906rem]"
      />
      {!allowed && <p className="text-[0.812rem] font-medium text-brick">{gone ? t('chat.goneHint') : t('chat.notAllowed')}</p>}
      {draft.length > longest - 200 && (
        <p className={`text-[0.812rem] ${draft.length > longest ? 'font-medium text-brick' : 'text-ink2'}`}>
          {t('chat.length', { count: draft.length, most: longest })}
        </p>
      )}
      <div className="flex items-center gap-2">
        <label className="flex min-h-7 flex-1 items-center gap-1.5 text-[0.844rem]">
          <input
            type="checkbox"
            className="size-4 accent-felt"
            checked={question && to.reach !== 'one'}
            disabled={to.reach === 'one'}
            onChange={(e) => useChat.setState({ question: e.target.checked })}
          />
          {t('chat.isQuestion')}
        </label>
        <Button small look="primary" type="submit" disabled={!allowed || draft.trim() === ''}>
          {t('chat.send')}
        </Button>
      </div>
    </form>
  )
}
