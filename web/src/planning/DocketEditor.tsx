import { clsx } from 'clsx'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { contacts, plans, Refused } from '../api/client'
import type { KeptPlan, ReadDocket, Role, DocketRow } from '../contract.generated'
import { dateAndTime } from '../i18n'
import { Button } from '../ui/Button'
import { Select, Words } from '../ui/Field'
import { FileButton } from '../ui/FileButton'
import { Failure } from '../ui/Failure'
import { givenRoles } from './givenRoles'

const empty: DocketRow = {
  id: null,
  name: '',
  email: null,
  role: 'attendee',
  group: null,
  slot: null,
  minutes: null,
  answer: 'none',
  invitedAt: null,
}
const cell = clsx(
  'w-full min-h-8 rounded-sm border border-transparent bg-transparent px-1.5 text-[0.875rem]',
  'hover:border-edge focus:border-edge focus:bg-raised',
)

/** The people expected: typed, pasted, imported or taken from the contacts; and invited from here. */
export function DocketEditor({ kept }: { kept: KeptPlan }) {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const key = ['plan', kept.id, 'docket']
  const page = useQuery({ queryKey: key, queryFn: () => plans.docket(kept.id), refetchOnWindowFocus: false })
  const [draft, setDraft] = useState<readonly DocketRow[] | null>(null)
  const [way, setWay] = useState<'paste' | 'contacts' | null>(null)
  const [read, setRead] = useState<ReadDocket | null>(null)
  const [done, setDone] = useState('')
  const lines = draft ?? page.data?.lines ?? []
  const change = (next: readonly DocketRow[]) => {
    setDone('')
    setDraft(next)
  }
  const keep = useMutation({
    mutationFn: () => plans.keepDocket(kept.id, lines),
    onSuccess: (now) => {
      queries.setQueryData(key, now)
      setDraft(null)
      setDone(t('docketPage.kept'))
    },
  })
  const invite = useMutation({
    mutationFn: (ids: readonly number[]) => plans.invite(kept.id, ids),
    onSuccess: async ({ count }) => {
      setDone(t('docketPage.invited', { count }))
      await queries.invalidateQueries({ queryKey: ['plan', kept.id] })
    },
  })
  const importFile = useMutation({ mutationFn: (file: File) => plans.importDocket(kept.id, file), onSuccess: setRead })
  const uninvited = lines.flatMap((line) => (line.id !== null && line.email && line.invitedAt === null ? [line.id] : []))
  const set = (at: number, part: Partial<DocketRow>) => change(lines.map((line, i) => (i === at ? { ...line, ...part } : line)))
  const failure = [keep.error, invite.error, importFile.error, page.error].find((error) => error !== null)
  const row = keep.error instanceof Refused && keep.error.row !== null ? keep.error.row : null
  return (
    <section aria-labelledby="docket-title" className="mt-8">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <h2 id="docket-title" className="mr-2 font-serif text-[1.188rem] font-semibold">
          {t('docketPage.title')} <span className="font-sans text-[0.875rem] text-ink2">{lines.length}</span>
        </h2>
        <Button onClick={() => change([...lines, empty])}>{t('docketPage.add')}</Button>
        <Button aria-expanded={way === 'paste'} onClick={() => setWay(way === 'paste' ? null : 'paste')}>
          {t('docketPage.paste')}
        </Button>
        <Button aria-expanded={way === 'contacts'} onClick={() => setWay(way === 'contacts' ? null : 'contacts')}>
          {t('docketPage.fromContacts')}
        </Button>
        <FileButton
          label={t('docketPage.import')}
          accept=".csv,.vcf,text/csv,text/vcard"
          onFile={(file) => importFile.mutate(file)}
        />
        <a href={plans.docketAddress(kept.id)} className="px-2 py-2 text-[0.875rem] font-semibold underline underline-offset-4">
          {t('contacts.asCsv')}
        </a>
      </div>
      {way === 'paste' && <Paste id={kept.id} onRead={(found) => (setRead(found), setWay(null))} />}
      {way === 'contacts' && <FromContacts present={lines} onTake={(more) => (change([...lines, ...more]), setWay(null))} />}
      {read && (
        <Understood read={read} onTake={(more) => (change([...lines, ...more]), setRead(null))} onDone={() => setRead(null)} />
      )}
      {lines.length === 0 && <p className="text-[0.906rem] text-ink2">{t('docketPage.none')}</p>}
      {lines.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="w-full min-w-[880px] border-collapse">
            <thead>
              <tr className="text-left text-[0.812rem] text-ink2">
                {['name', 'email', 'role', 'group', 'slot', 'minutes', 'answer'].map((column) => (
                  <th key={column} className="border-b border-line px-1.5 py-1 font-semibold">
                    {t(`docketPage.column.${column}`)}
                  </th>
                ))}
                <th className="border-b border-line">
                  <span className="sr-only">{t('contacts.acts')}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line, at) => (
                <tr
                  key={line.id ?? `new${at}`}
                  className={`border-b border-line bg-paper ${row === at ? 'outline-2 outline-brick' : ''}`}
                >
                  <td className="w-48">
                    <input
                      aria-label={t('docketPage.column.name')}
                      className={`${cell} font-semibold`}
                      value={line.name}
                      onChange={(e) => set(at, { name: e.target.value })}
                    />
                  </td>
                  <td className="w-52">
                    <input
                      aria-label={t('docketPage.column.email')}
                      className={cell}
                      value={line.email ?? ''}
                      onChange={(e) => set(at, { email: e.target.value || null })}
                    />
                  </td>
                  <td className="w-28">
                    <select
                      aria-label={t('docketPage.column.role')}
                      className={cell}
                      value={line.role}
                      onChange={(e) => set(at, { role: e.target.value as Role })}
                    >
                      {givenRoles.map((role) => (
                        <option key={role} value={role}>
                          {t(`role.${role}`)}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="w-32">
                    <input
                      aria-label={t('docketPage.column.group')}
                      className={cell}
                      value={line.group ?? ''}
                      onChange={(e) => set(at, { group: e.target.value || null })}
                    />
                  </td>
                  <td>
                    <input
                      type="datetime-local"
                      aria-label={t('docketPage.column.slot')}
                      className={cell}
                      value={line.slot ?? ''}
                      onChange={(e) => set(at, { slot: e.target.value || null })}
                    />
                  </td>
                  <td className="w-16">
                    <input
                      type="number"
                      min={1}
                      aria-label={t('docketPage.column.minutes')}
                      className={cell}
                      value={line.minutes ?? ''}
                      onChange={(e) => set(at, { minutes: e.target.value === '' ? null : Number(e.target.value) })}
                    />
                  </td>
                  <td
                    className="px-1.5 text-[0.844rem] whitespace-nowrap"
                    title={line.invitedAt ? dateAndTime(line.invitedAt) : undefined}
                  >
                    {line.answer !== 'none' ? t(`answer.short.${line.answer}`) : line.invitedAt ? t('docketPage.isInvited') : '–'}
                  </td>
                  <td className="text-right whitespace-nowrap">
                    {line.id !== null && line.email && !draft && (
                      <Button
                        small
                        look="text"
                        aria-label={`${t('docketPage.inviteOne')} ${line.name}`}
                        onClick={() => invite.mutate([line.id!])}
                      >
                        {line.invitedAt ? t('docketPage.inviteAgain') : t('docketPage.inviteOne')}
                      </Button>
                    )}
                    <Button
                      small
                      look="text"
                      aria-label={`${t('common.remove')} ${line.name}`}
                      onClick={() => change(lines.filter((_, i) => i !== at))}
                    >
                      {t('common.remove')}
                    </Button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {page.data && page.data.overlaps.length > 0 && !draft && (
        <p className="mt-2 border-l-4 border-brass pl-3 text-[0.875rem]">
          {t('docketPage.overlaps', { pairs: page.data.overlaps.join('; ') })}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {draft && (
          <>
            <Button look="primary" disabled={keep.isPending} onClick={() => keep.mutate()}>
              {t('docketPage.keep')}
            </Button>
            <Button onClick={() => setDraft(null)}>{t('docketPage.discard')}</Button>
          </>
        )}
        {!draft && uninvited.length > 0 && !kept.cancelled && (
          <Button look="primary" disabled={invite.isPending} onClick={() => invite.mutate(uninvited)}>
            {t('docketPage.inviteAll', { count: uninvited.length })}
          </Button>
        )}
        <p role="status" className="text-[0.875rem] text-moss">
          {done}
        </p>
        {failure && (
          <p role="alert" className="text-[0.875rem] font-medium text-brick">
            {row === null ? failure.message : t('docketPage.rowTrouble', { number: row + 1, words: failure.message })}
          </p>
        )}
      </div>
    </section>
  )
}

function Paste({ id, onRead }: { id: string; onRead: (read: ReadDocket) => void }) {
  const { t } = useTranslation()
  const [text, setText] = useState('')
  const read = useMutation({ mutationFn: () => plans.readDocket(id, text), onSuccess: onRead })
  return (
    <div className="mb-3 flex max-w-2xl flex-col gap-2 border border-line bg-paper p-4">
      <Words
        label={t('docketPage.pasteLabel')}
        rows={6}
        maxLength={1_000_000}
        value={text}
        onChange={(e) => setText(e.target.value)}
        placeholder={t('docketPage.pasteExample')}
      />
      <p className="text-[0.844rem] text-ink2">{t('docketPage.pasteHint')}</p>
      <Failure of={[read.error]} />
      <Button look="primary" className="self-start" disabled={read.isPending} onClick={() => read.mutate()}>
        {t('docketPage.read')}
      </Button>
    </div>
  )
}

/** What was understood, line by line, before any of it is taken. */
function Understood({ read, onTake, onDone }: { read: ReadDocket; onTake: (lines: DocketRow[]) => void; onDone: () => void }) {
  const { t } = useTranslation()
  const good = read.lines.filter((line) => line.flaw === null)
  const bad = read.lines.filter((line) => line.flaw !== null)
  return (
    <div className="mb-3 border border-l-[6px] border-line border-l-brass bg-paper p-4 text-[0.875rem]">
      {read.flaw && <p className="text-brick">{t(`reason.${read.flaw}`)}</p>}
      {!read.flaw && <p className="font-semibold">{t('docketPage.understood', { good: good.length, bad: bad.length })}</p>}
      <ul className="mt-2 max-h-56 overflow-y-auto">
        {bad.map((line) => (
          <li key={`bad${line.number}`} className="text-brick">
            {t('contacts.row', { number: line.number })}: “{line.text}”. {t(`reason.${line.flaw}`)}
          </li>
        ))}
        {good.slice(0, 100).map(({ number, line }) => (
          <li key={number}>
            {t('contacts.row', { number })}: <strong className="font-semibold">{line.name}</strong>{' '}
            {[
              line.slot?.slice(11),
              line.minutes && t('common.minutes', { count: line.minutes }),
              line.email,
              line.role !== 'attendee' && t(`role.${line.role}`),
              line.group,
            ]
              .filter(Boolean)
              .join(', ')}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex gap-2">
        {good.length > 0 && (
          <Button look="primary" onClick={() => onTake(good.map(({ line }) => line))}>
            {t('docketPage.take', { count: good.length })}
          </Button>
        )}
        <Button onClick={onDone}>{t('common.cancel')}</Button>
      </div>
    </div>
  )
}

function FromContacts({ present, onTake }: { present: readonly DocketRow[]; onTake: (lines: DocketRow[]) => void }) {
  const { t } = useTranslation()
  const list = useQuery({ queryKey: ['contacts'], queryFn: contacts.list })
  const [group, setGroup] = useState('')
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set())
  const groups = [...new Set((list.data ?? []).flatMap((contact) => contact.groups))].sort((a, b) => a.localeCompare(b))
  const there = new Set(present.flatMap((line) => (line.email ? [line.email.toLowerCase()] : [])))
  const offered = (list.data ?? []).filter(
    (contact) => !there.has(contact.email?.toLowerCase() ?? '') && (!group || contact.groups.includes(group)),
  )
  const taken = offered.filter((contact) => chosen.has(contact.id))
  const flip = (id: number) => {
    const next = new Set(chosen)
    if (!next.delete(id)) next.add(id)
    setChosen(next)
  }
  return (
    <div className="mb-3 max-w-2xl border border-line bg-paper p-4">
      {list.data?.length === 0 && <p className="text-[0.875rem] text-ink2">{t('contacts.none')}</p>}
      {groups.length > 0 && (
        <div className="mb-2 w-64">
          <Select label={t('contacts.group')} value={group} onChange={(e) => setGroup(e.target.value)}>
            <option value="">{t('contacts.allGroups')}</option>
            {groups.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Select>
        </div>
      )}
      <ul className="max-h-64 overflow-y-auto">
        {offered.slice(0, 300).map((contact) => (
          <li key={contact.id}>
            <label className="flex items-center gap-2 py-1 text-[0.875rem]">
              <input
                type="checkbox"
                className="size-4.5 accent-felt"
                checked={chosen.has(contact.id)}
                onChange={() => flip(contact.id)}
              />
              <span className="font-semibold">{contact.name}</span> <span className="text-ink2">{contact.email}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex gap-2">
        <Button
          look="primary"
          disabled={taken.length === 0}
          onClick={() =>
            onTake(
              taken.map((contact) => ({
                ...empty,
                name: contact.name,
                email: contact.email,
                group: group || (contact.groups[0] ?? null),
              })),
            )
          }
        >
          {t('docketPage.take', { count: taken.length })}
        </Button>
        <Button onClick={() => setChosen(new Set(offered.map((contact) => contact.id)))}>
          {t('docketPage.chooseAll', { count: offered.length })}
        </Button>
      </div>
    </div>
  )
}
