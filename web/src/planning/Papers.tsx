import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { plans } from '../api/client'
import { Button } from '../ui/Button'
import { FileButton } from '../ui/FileButton'
import { Failure } from '../ui/Failure'

const kilobytes = (bytes: number) => Math.max(1, Math.round(bytes / 1024)).toLocaleString()

/** Files that everybody finds inside. */
export function Papers({ id }: { id: string }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const list = useQuery({ queryKey: ['plan', id, 'papers'], queryFn: () => plans.papers(id) })
  const take = (rows: typeof list.data) => queries.setQueryData(['plan', id, 'papers'], rows)
  const add = useMutation({ mutationFn: (file: File) => plans.addPaper(id, file), onSuccess: take })
  const drop = useMutation({ mutationFn: (paper: number) => plans.dropPaper(id, paper), onSuccess: take })
  const [asking, setAsking] = useState<number | null>(null)
  return (
    <section aria-labelledby="papers-title" className="mt-8">
      <div className="mb-2 flex flex-wrap items-center gap-3">
        <h2 id="papers-title" className="font-serif text-[1.188rem] font-semibold">
          {t('papers.title')}
        </h2>
        <FileButton
          label={t('papers.add')}
          accept=".pdf,.png,.jpg,.jpeg,.docx,.xlsx,.pptx,.odt,.ods,.odp,.txt,.md,.csv,.zip"
          onFile={(file) => add.mutate(file)}
        />
        {add.isPending && <progress aria-label={t('papers.adding')} />}
      </div>
      <Failure of={[list.error, add.error, drop.error]} />
      {list.data?.length === 0 && <p className="text-[0.906rem] text-ink2">{t('papers.nonePlanned')}</p>}
      <ul className="flex flex-col gap-1">
        {list.data?.map((paper) => (
          <li key={paper.id} className="flex items-center gap-3 border border-line bg-paper px-3 py-1.5 text-[0.906rem]">
            <span className="min-w-0 flex-1 break-all">{paper.name}</span>
            <span className="text-[0.812rem] text-ink2">{t('papers.size', { size: kilobytes(paper.size) })}</span>
            {asking === paper.id ? (
              <>
                <Button small look="end" onClick={() => drop.mutate(paper.id)}>
                  {t('papers.removeDo')}
                </Button>
                <Button small onClick={() => setAsking(null)}>
                  {t('common.back')}
                </Button>
              </>
            ) : (
              <Button small look="text" aria-label={`${t('common.remove')} ${paper.name}`} onClick={() => setAsking(paper.id)}>
                {t('common.remove')}
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
