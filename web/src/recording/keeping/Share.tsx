import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { recordings } from '../../api/client'
import type { RecordingPage } from '../../contract.generated'
import { dateAndTime, dayAndTime } from '../../i18n'
import { Button } from '../../ui/Button'
import { CopyButton } from '../../ui/CopyButton'
import { Failure } from '../../ui/Failure'
import { Field } from '../../ui/Field'
import { Part } from './Part'
import { useAct } from './useAct'

export function Share({ page }: { page: RecordingPage }) {
  const { t } = useTranslation()
  const id = page.recording.id
  const [days, setDays] = useState('30')
  const [passcode, setPasscode] = useState('')
  const [made, setMade] = useState<string | null>(null)
  const queries = useQueryClient()
  const share = useMutation({
    mutationFn: () =>
      recordings.share(id, { days: days === '' ? null : Number(days), passcode: passcode === '' ? null : passcode }),
    onSuccess: async ({ link }) => {
      setMade(`${location.origin}${link}`)
      setPasscode('')
      await queries.invalidateQueries({ queryKey: ['recording', id] })
    },
  })
  const drop = useAct(id, (link: string) => recordings.dropLink(id, link))
  return (
    <Part title={t('player.share')}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          share.mutate()
        }}
      >
        <Field label={t('player.days')} type="number" min={1} max={3650} value={days} onChange={(e) => setDays(e.target.value)} />
        <Field
          label={t('player.passcode')}
          autoComplete="off"
          maxLength={100}
          value={passcode}
          onChange={(e) => setPasscode(e.target.value)}
        />
        <Failure of={[share.error, drop.error]} />
        <Button type="submit" className="self-start" disabled={share.isPending}>
          {t('player.makeLink')}
        </Button>
      </form>
      {made && (
        <div className="mt-3 border-l-4 border-brass bg-brass-soft p-2" role="status">
          <p className="text-[0.875rem] break-all">{made}</p>
          <p className="my-1 text-[0.812rem]">{t('player.linkOnce')}</p>
          <CopyButton text={made} label={t('common.copy')} />
        </div>
      )}
      {page.links.length > 0 && (
        <ul className="mt-3 flex flex-col gap-1" aria-label={t('player.links')}>
          {page.links.map((link) => (
            <li key={link.id} className="flex flex-wrap items-center gap-2 text-[0.875rem]">
              <span>
                {dateAndTime(link.madeAt)} ·{' '}
                {link.endsAt === null ? t('player.linkEver') : t('player.linkEnds', { when: dayAndTime(link.endsAt) })}
                {link.hasPasscode && ` · ${t('player.linkCode')}`}
              </span>
              <Button small look="text" onClick={() => drop.mutate(link.id)}>
                {t('player.dropLink')}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Part>
  )
}
