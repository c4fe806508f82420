import { useMutation } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useTranslation } from 'react-i18next'
import { door, guestLink } from '../api/client'
import type { Role } from '../contract.generated'
import { Button } from '../ui/Button'
import { CopyButton } from '../ui/CopyButton'
import { Field, Select } from '../ui/Field'
import { givenRoles } from './givenRoles'

/** Invites somebody into the sitting that runs: by mail where there is an address, by a link to pass on otherwise. */
export function CallIn({ link }: { link: string }) {
  const { t } = useTranslation()
  const [wish, setWish] = useState({ name: '', email: '', role: 'attendee' as Role })
  const invite = useMutation({
    mutationFn: () => door.callIn(link, { ...wish, email: wish.email || null }),
    onSuccess: () => setWish({ ...wish, name: '', email: '' }),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    invite.mutate()
  }
  const { data } = invite
  return (
    <form onSubmit={submit} noValidate className="mt-4 flex flex-col gap-2 border-t border-line pt-3">
      <h3 className="font-serif text-[0.938rem] font-semibold">{t('callIn.title')}</h3>
      <Field
        label={t('contacts.name')}
        value={wish.name}
        onChange={(e) => setWish({ ...wish, name: e.target.value })}
        error={invite.error?.message}
      />
      <Field
        label={t('callIn.email')}
        type="email"
        value={wish.email}
        onChange={(e) => setWish({ ...wish, email: e.target.value })}
      />
      <Select
        label={t('docketPage.column.role')}
        value={wish.role}
        onChange={(e) => setWish({ ...wish, role: e.target.value as Role })}
      >
        {givenRoles.map((role) => (
          <option key={role} value={role}>
            {t(`role.${role}`)}
          </option>
        ))}
      </Select>
      <Button look="primary" type="submit" disabled={invite.isPending} className="self-start">
        {t('callIn.do')}
      </Button>
      {data && (
        <div className="border-l-4 border-moss pl-3 text-[0.875rem]">
          <p role="status">{t(data.sent ? 'callIn.sent' : 'callIn.listed')}</p>
          <CopyButton text={guestLink(data.link)} label={t('callIn.copy')} />
        </div>
      )}
    </form>
  )
}
