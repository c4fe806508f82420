import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { useNavigate } from 'react-router'
import { account, plans } from '../api/client'
import type { OwnerRow } from '../contract.generated'
import { Button } from '../ui/Button'
import { Select } from '../ui/Field'
import { Failure } from '../ui/Failure'
import { Section } from './Section'

/** Whose the session is: the owner, and those who plan, open and lead it beside them. */
export function Owners({ id }: { id: string }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const [chosen, setChosen] = useState('')
  const owners = useQuery({ queryKey: ['owners', id], queryFn: () => plans.owners(id) })
  const colleagues = useQuery({ queryKey: ['colleagues'], queryFn: account.colleagues })
  const keep = async (rows: readonly OwnerRow[]) => {
    queries.setQueryData(['owners', id], rows)
    await queries.invalidateQueries({ queryKey: ['sessions'] })
  }
  const add = useMutation({
    mutationFn: () => plans.addOwner(id, chosen),
    onSuccess: (rows) => (setChosen(''), keep(rows)),
  })
  const drop = useMutation({
    mutationFn: (row: OwnerRow) => plans.dropOwner(id, row.id),
    // Whoever takes themselves out has nothing more to plan here.
    onSuccess: (rows, row) => (row.me ? (queries.clear(), navigate('/')) : keep(rows)),
  })
  const pass = useMutation({ mutationFn: (row: OwnerRow) => plans.passTo(id, row.id), onSuccess: keep })
  const mine = owners.data?.some((row) => row.owner && row.me) ?? false
  const others = colleagues.data?.filter((one) => !owners.data?.some((row) => row.id === one.id)) ?? []
  return (
    <Section title={t('owners.title')}>
      <p className="text-[0.844rem] text-ink2">{t('owners.lead')}</p>
      <ul className="text-[0.906rem]">
        {owners.data?.map((row) => (
          <li key={row.id} className="flex min-h-9 flex-wrap items-center gap-x-3">
            <span className="flex-1">
              <span className="font-semibold">{row.name}</span>{' '}
              <span className="text-ink2">{t(row.owner ? 'owners.owner' : 'owners.coOwner')}</span>
            </span>
            {!row.owner && mine && (
              <Button small look="text" aria-label={`${t('owners.pass')}: ${row.name}`} onClick={() => pass.mutate(row)}>
                {t('owners.pass')}
              </Button>
            )}
            {!row.owner && (mine || row.me) && (
              <Button small look="text" aria-label={`${t('common.remove')} ${row.name}`} onClick={() => drop.mutate(row)}>
                {t('common.remove')}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {mine &&
        (others.length > 0 ? (
          <div className="flex flex-wrap items-end gap-2">
            <div className="w-64 max-w-full">
              <Select label={t('owners.add')} value={chosen} onChange={(e) => setChosen(e.target.value)}>
                <option value="">{t('heir.choose')}</option>
                {others.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </Select>
            </div>
            <Button disabled={chosen === '' || add.isPending} onClick={() => add.mutate()}>
              {t('owners.addDo')}
            </Button>
          </div>
        ) : (
          colleagues.data && <p className="text-[0.844rem] text-ink2">{t('owners.nobody')}</p>
        ))}
      <Failure of={[owners.error, add.error, drop.error, pass.error]} />
    </Section>
  )
}
