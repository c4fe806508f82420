import { useMutation, useQuery } from '@tanstack/react-query'
import { useTranslation } from 'react-i18next'
import { Link, useLocation } from 'react-router'
import { answers, Refused } from '../api/client'
import type { Answer } from '../contract.generated'
import { dateAndTime } from '../i18n'
import { Button } from '../ui/Button'
import { Placard } from '../ui/Placard'
import { Failed, Loading } from '../ui/States'

/** Where somebody invited says whether they will come. */
export default function AnswerPage() {
  const { t } = useTranslation()
  const token = useLocation().hash.slice(1)
  const page = useQuery({ queryKey: ['answer', token], queryFn: () => answers.page(token) })
  const give = useMutation({ mutationFn: (answer: Answer) => answers.give(token, answer), onSuccess: () => page.refetch() })
  if (page.error instanceof Refused && page.error.reason === 'noSuchInvitation')
    return (
      <Placard title={t('answer.gone')} spine="brick">
        <p>{t('answer.goneHint')}</p>
      </Placard>
    )
  if (page.error) return <Failed sentence={page.error.message} onRetry={() => void page.refetch()} />
  if (!page.data) return <Loading />
  const { name, title, hostName, startsAt, minutes, answer, cancelled, link } = page.data
  const choices: readonly Exclude<Answer, 'none'>[] = ['comes', 'maybe', 'comesNot']
  return (
    <Placard title={title} spine={cancelled ? 'brick' : 'felt'}>
      <p>{t('answer.invited', { name, host: hostName })}</p>
      {startsAt && (
        <p className="font-semibold">
          {dateAndTime(startsAt)}
          {minutes && `, ${t('common.minutes', { count: minutes })}`}
        </p>
      )}
      {cancelled ? (
        <p>{t('check.cancelled')}</p>
      ) : (
        <>
          <div role="group" aria-label={t('answer.title')} className="flex flex-wrap gap-2">
            {choices.map((choice) => (
              <Button
                key={choice}
                look={answer === choice ? 'primary' : 'plain'}
                aria-pressed={answer === choice}
                disabled={give.isPending}
                onClick={() => give.mutate(choice)}
              >
                {t(`answer.${choice}`)}
              </Button>
            ))}
          </div>
          <p role="status" className="text-ink2">
            {give.error ? give.error.message : t(`answer.said.${answer}`, { host: hostName })}
          </p>
          <p>
            <Link to={`/s/${link}`} className="font-semibold text-felt-ink underline underline-offset-4">
              {t('answer.toDoor')}
            </Link>
          </p>
        </>
      )}
    </Placard>
  )
}
