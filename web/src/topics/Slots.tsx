import { Fragment, type ReactNode } from 'react'
import { useTranslation } from 'react-i18next'
import { Side } from '../sittings/Side'
import { Boundary } from '../ui/Boundary'
import { inOrder } from './inOrder'
import type { PageTopic, Show, Within } from './slots'

interface Props {
  topics: readonly PageTopic[]
  within: Within
}

/** The cards of one place. */
export function Cards({ topics, within, place }: Props & { place: 'above' | 'below' }) {
  return inOrder(topics.map((topic) => topic[place])).map(({ at, Card }) => (
    <Boundary key={at} place="card">
      <Card {...within} />
    </Boundary>
  ))
}

/** What stands at one end of the ribbon, or at the foot. */
export function Pieces({ topics, within, place }: Props & { place: 'ribbon' | 'ribbonEnd' | 'foot' }) {
  return inOrder(topics.map((topic) => topic[place])).map(({ at, Item }) => (
    <Boundary key={at} place={place === 'foot' ? 'card' : 'ribbon'}>
      <Item {...within} />
    </Boundary>
  ))
}

/** The picture, with what topics put around it or in its place. */
export function PicturePlace({ topics, within, children }: Props & { children: ReactNode }) {
  const instead = topics.map((topic) => topic.instead?.(within) ?? null).find((one) => one !== null)
  if (instead) return instead
  return topics.reduce<ReactNode>((inner, { Around }) => (Around ? <Around>{inner}</Around> : inner), children)
}

export function Watches({ topics, within, show }: Props & { show: Show }) {
  return topics.map(({ Watch }, at) => <Fragment key={at}>{Watch && <Watch {...within} show={show} />}</Fragment>)
}

export function Beside({ topics, within, ...rest }: Props & { shown: string | null; onShow: Show; over?: boolean }) {
  const { t } = useTranslation()
  const parts = inOrder(topics.map((topic) => topic.beside)).filter((part) => part.isThere?.(within) ?? true)
  return (
    <Side
      label={t('side.label')}
      {...rest}
      parts={parts.map(({ key, label, useCount, isWide, Content }) => ({
        key,
        label: label(t),
        ...(useCount ? { useCount } : {}),
        wide: isWide?.(within) ?? false,
        content: <Content {...within} />,
      }))}
    />
  )
}

export const actsOf = (topics: readonly PageTopic[], within: Within) =>
  Object.assign({}, ...topics.map((topic) => topic.acts?.(within))) as NonNullable<ReturnType<NonNullable<PageTopic['acts']>>>

/** Which letter leads where, after the key of "go to". */
export const lettersOf = (topics: readonly PageTopic[], show: Show): Record<string, () => void> =>
  Object.fromEntries(
    topics.flatMap(({ beside, letters = {} }) => [
      ...Object.entries(letters),
      ...(beside?.letter ? [[beside.letter, () => show(beside.key)] as const] : []),
    ]),
  )
