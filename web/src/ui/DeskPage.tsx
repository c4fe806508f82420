import { clsx } from 'clsx'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { Navigate, NavLink } from 'react-router'
import { ProofDialog } from '../accounts/proof'
import { account } from '../api/client'
import { SettingsItem } from '../settings/SettingsItem'
import { Loading, NotFetched, ToSignIn } from './States'
import { ScreenTitle, SkipLink } from './ScreenTitle'

/** The frame of the pages a host works on between sittings. */
export function DeskPage({ title, children }: { title: string; children: ReactNode }) {
  const { t } = useTranslation()
  const [settings, setSettings] = useState(false)
  const me = useQuery({ queryKey: ['me'], queryFn: account.me })
  const signOut = useMutation({
    mutationFn: account.signOut,
    // A page that is loaded anew remembers nothing: neither what was fetched, nor where whoever signs in next would be led back to.
    onSuccess: () => window.location.assign('/sign-in'),
  })
  if (me.error && !me.data) return <NotFetched error={me.error} onRetry={() => void me.refetch()} />
  if (!me.data) return <Loading />
  if (me.data.setUp) return <Navigate to="/set-up" replace />
  if (me.data.email === null) return <ToSignIn />
  const places: [string, string][] = [
    ['/', t('today.title')],
    ['/recordings', t('library.title')],
    ['/contacts', t('contacts.title')],
    ['/outbox', t('outbox.title')],
    ...(me.data.keeper
      ? ([
          ['/hosts', t('hosts.title')],
          ['/house', t('house.title')],
        ] as [string, string][])
      : []),
  ]
  return (
    <div className="flex min-h-dvh flex-col">
      <SkipLink to="content" label={t('common.skip')} />
      <header className="flex flex-wrap items-stretch gap-x-6 bg-felt px-6 text-on-felt">
        <p className="py-3 font-serif text-[1.125rem] font-semibold">{t('product')}</p>
        <nav aria-label={t('common.places')} className="flex flex-1 flex-wrap items-stretch gap-1 max-sm:-mx-2 max-sm:basis-full">
          {places.map(([to, label]) => (
            <NavLink
              key={to}
              to={to}
              end
              className={clsx(
                'flex items-center border-b-3 border-transparent px-3 py-2 max-sm:px-2 text-[0.875rem]',
                'font-semibold hover:bg-felt-line aria-[current=page]:border-on-felt2',
              )}
            >
              {label}
            </NavLink>
          ))}
        </nav>
        <p className="flex items-center gap-4 py-2 text-[0.875rem]">
          <NavLink
            to="/account"
            className="flex min-h-6 items-center font-semibold underline-offset-4 hover:underline aria-[current=page]:underline"
          >
            {me.data.name}
          </NavLink>
          <SettingsItem plain open={settings} onOpenChange={setSettings} bench />
          <button className="min-h-6 underline underline-offset-4" disabled={signOut.isPending} onClick={() => signOut.mutate()}>
            {t('signIn.out')}
          </button>
        </p>
        {signOut.error && (
          <p role="alert" className="basis-full pb-2 text-right text-[0.875rem]">
            {signOut.error.message}
          </p>
        )}
      </header>
      {me.data.openDemo && (
        <p className="border-b border-brick bg-brick-soft px-6 py-2 text-[0.906rem] text-ink">{t('demo.open')}</p>
      )}
      <ProofDialog />
      <main id="content" tabIndex={-1} className="mx-auto w-full max-w-6xl flex-1 px-6 py-7 outline-none max-sm:px-3">
        <ScreenTitle key={title} title={title} className="mb-5 font-serif text-[1.75rem] leading-none font-semibold" />
        {children}
      </main>
    </div>
  )
}
