import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { contacts } from '../api/client'
import type { ContactImport, ContactRow } from '../contract.generated'
import { Button } from '../ui/Button'
import { DeskPage } from '../ui/DeskPage'
import { Field } from '../ui/Field'
import { FileButton } from '../ui/FileButton'
import { Failure } from '../ui/Failure'

const shownAtOnce = 200

/** The people a host invites again and again. */
export default function ContactsPage() {
  const { t } = useTranslation()
  const queries = useQueryClient()
  const [find, setFind] = useState('')
  const [edited, setEdited] = useState<ContactRow | null>(null)
  const [file, setFile] = useState<File | null>(null)
  const list = useQuery({ queryKey: ['contacts'], queryFn: contacts.list })
  const renew = () => queries.invalidateQueries({ queryKey: ['contacts'] })
  const remove = useMutation({ mutationFn: (contact: ContactRow) => contacts.remove([contact.id]), onSuccess: renew })
  const putBack = useMutation({
    mutationFn: (contact: ContactRow) => contacts.keep({ ...contact, id: 0 }),
    onSuccess: () => (remove.reset(), renew()),
  })
  const removed = remove.isSuccess ? remove.variables : null
  const found = useMemo(() => {
    const wanted = find.trim().toLocaleLowerCase()
    return (list.data ?? []).filter((contact) =>
      [contact.name, contact.email ?? '', ...contact.groups].some((text) => text.toLocaleLowerCase().includes(wanted)),
    )
  }, [list.data, find])
  return (
    <DeskPage title={t('contacts.title')}>
      <div className="mb-4 flex flex-wrap items-end gap-2">
        <div className="w-64">
          <Field label={t('contacts.find')} type="search" value={find} onChange={(e) => setFind(e.target.value)} />
        </div>
        <Button look="primary" onClick={() => setEdited({ id: 0, name: '', email: null, phone: null, groups: [] })}>
          {t('contacts.add')}
        </Button>
        <FileButton label={t('contacts.import')} accept=".csv,.vcf,text/csv,text/vcard" onFile={setFile} />
        <a href="/api/contacts/contacts.vcf" className="px-2 py-2 text-[0.875rem] font-semibold underline underline-offset-4">
          {t('contacts.asVcard')}
        </a>
        <a href="/api/contacts/contacts.csv" className="px-2 py-2 text-[0.875rem] font-semibold underline underline-offset-4">
          {t('contacts.asCsv')}
        </a>
        <div role="status" className="ml-auto flex min-h-9 items-center gap-2 text-[0.875rem]">
          {removed && (
            <>
              {t('contacts.removed', { name: removed.name })}
              <Button small disabled={putBack.isPending} onClick={() => putBack.mutate(removed)}>
                {t('contacts.putBack')}
              </Button>
            </>
          )}
        </div>
      </div>
      {file && <Import key={`${file.name}${file.lastModified}`} file={file} onDone={() => (setFile(null), void renew())} />}
      <Failure of={[list.error, remove.error, putBack.error]} className="mb-3" />
      {edited && <Editor key={edited.id} contact={edited} onDone={() => (setEdited(null), void renew())} />}
      {list.data?.length === 0 && <p className="text-ink2">{t('contacts.none')}</p>}
      {found.length > 0 && (
        <table className="w-full border-collapse text-[0.906rem]">
          <thead>
            <tr className="text-left text-[0.812rem] text-ink2">
              <th className="border-b border-line px-2 py-1.5 font-semibold">{t('contacts.name')}</th>
              <th className="border-b border-line px-2 py-1.5 font-semibold">{t('signIn.email')}</th>
              <th className="border-b border-line px-2 py-1.5 font-semibold max-md:hidden">{t('contacts.phone')}</th>
              <th className="border-b border-line px-2 py-1.5 font-semibold max-md:hidden">{t('contacts.groups')}</th>
              <th className="border-b border-line px-2 py-1.5">
                <span className="sr-only">{t('contacts.acts')}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {found.slice(0, shownAtOnce).map((contact) => (
              <tr key={contact.id} className="border-b border-line bg-paper">
                <td className="px-2 py-1.5 font-semibold">{contact.name}</td>
                <td className="px-2 py-1.5 break-all">{contact.email}</td>
                <td className="px-2 py-1.5 max-md:hidden">{contact.phone}</td>
                <td className="px-2 py-1.5 max-md:hidden">{contact.groups.join(', ')}</td>
                <td className="px-2 py-1.5 text-right whitespace-nowrap">
                  <Button small look="text" onClick={() => setEdited(contact)} aria-label={`${t('common.edit')} ${contact.name}`}>
                    {t('common.edit')}
                  </Button>
                  <Button
                    small
                    look="text"
                    onClick={() => remove.mutate(contact)}
                    aria-label={`${t('common.remove')} ${contact.name}`}
                  >
                    {t('common.remove')}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {found.length > shownAtOnce && (
        <p className="mt-2 text-[0.844rem] text-ink2">{t('contacts.more', { count: found.length - shownAtOnce })}</p>
      )}
      {list.data && list.data.length > 0 && found.length === 0 && <p className="text-ink2">{t('board.noneFound')}</p>}
    </DeskPage>
  )
}

function Editor({ contact, onDone }: { contact: ContactRow; onDone: () => void }) {
  const { t } = useTranslation()
  const [row, setRow] = useState({ ...contact, groups: contact.groups.join(', ') })
  const keep = useMutation({
    mutationFn: () =>
      contacts.keep({
        ...row,
        email: row.email || null,
        phone: row.phone || null,
        groups: row.groups
          .split(',')
          .map((group) => group.trim())
          .filter(Boolean),
      }),
    onSuccess: onDone,
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    keep.mutate()
  }
  return (
    <form onSubmit={submit} noValidate className="mb-5 grid gap-3 border border-line bg-paper p-4 sm:grid-cols-2 lg:grid-cols-4">
      <Field
        label={t('contacts.name')}
        value={row.name}
        onChange={(e) => setRow({ ...row, name: e.target.value })}
        error={keep.error?.message}
      />
      <Field
        label={t('signIn.email')}
        type="email"
        value={row.email ?? ''}
        onChange={(e) => setRow({ ...row, email: e.target.value })}
      />
      <Field label={t('contacts.phone')} value={row.phone ?? ''} onChange={(e) => setRow({ ...row, phone: e.target.value })} />
      <Field label={t('contacts.groupsComma')} value={row.groups} onChange={(e) => setRow({ ...row, groups: e.target.value })} />
      <div className="flex gap-2 sm:col-span-2 lg:col-span-4">
        <Button look="primary" type="submit" disabled={keep.isPending}>
          {t('common.save')}
        </Button>
        <Button onClick={onDone}>{t('common.cancel')}</Button>
      </div>
    </form>
  )
}

/** First shows what each row will do; nothing is taken until it is said so. */
function Import({ file, onDone }: { file: File; onDone: () => void }) {
  const { t } = useTranslation()
  const look = useQuery({
    queryKey: ['import', file.name, file.lastModified, file.size],
    queryFn: () => contacts.look(file),
    retry: false,
    gcTime: 0,
  })
  const take = useMutation({ mutationFn: () => contacts.take(file), onSuccess: onDone })
  return (
    <section aria-label={t('contacts.import')} className="mb-5 border border-l-[6px] border-line border-l-brass bg-paper p-4">
      <h2 className="font-serif text-[1.125rem] font-semibold">{file.name}</h2>
      {look.isPending && <p aria-busy="true">{t('contacts.reading')}</p>}
      <Failure of={[look.error]} />
      {look.data?.flaw && <p className="text-brick">{t(`reason.${look.data.flaw}`)}</p>}
      {look.data && !look.data.flaw && <Rows found={look.data} />}
      {take.isPending && <progress className="mt-2 w-60" aria-label={t('contacts.taking')} />}
      <Failure of={[take.error]} />
      <div className="mt-3 flex gap-2">
        {look.data && look.data.added + look.data.changed > 0 && (
          <Button look="primary" disabled={take.isPending} onClick={() => take.mutate()}>
            {t('contacts.take', { count: look.data.added + look.data.changed })}
          </Button>
        )}
        <Button onClick={onDone}>{t('common.cancel')}</Button>
      </div>
    </section>
  )
}

function Rows({ found }: { found: ContactImport }) {
  const { t } = useTranslation()
  const order = { skip: 0, change: 1, add: 2, same: 3 }
  const rows = [...found.rows].sort((a, b) => order[a.deed] - order[b.deed] || a.number - b.number)
  return (
    <>
      <p className="mt-1 text-[0.906rem]">
        {t('contacts.will', { added: found.added, changed: found.changed, same: found.same, skipped: found.skipped })}
      </p>
      {/* Scrolled with the keyboard, so it takes the focus. */}
      <ul
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        aria-label={t('contacts.rows')}
        className="mt-2 max-h-64 overflow-y-auto border-t border-line text-[0.844rem]"
      >
        {rows.slice(0, shownAtOnce).map((row) => (
          <li key={row.number} className="flex flex-wrap gap-x-3 border-b border-line py-1">
            <span className="w-20 text-ink2">{t('contacts.row', { number: row.number })}</span>
            <span
              className={`w-20 font-semibold ${row.deed === 'skip' ? 'text-brick' : row.deed === 'same' ? 'text-ink2' : 'text-moss'}`}
            >
              {t(`contacts.deed.${row.deed}`)}
            </span>
            <span>
              {row.contact.name} {row.contact.email}
            </span>
            {row.flaw && <span className="text-brick">{t(`reason.${row.flaw}`)}</span>}
          </li>
        ))}
      </ul>
      {rows.length > shownAtOnce && (
        <p className="mt-1 text-[0.812rem] text-ink2">{t('contacts.more', { count: rows.length - shownAtOnce })}</p>
      )}
    </>
  )
}
