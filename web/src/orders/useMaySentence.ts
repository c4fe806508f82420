import { useTranslation } from 'react-i18next'
import { listOf } from '../i18n'
import { useLive } from '../live/store'

/** The one sentence that says what one may do now. */
export function useMaySentence(): string {
  const { t } = useTranslation()
  const me = useLive((state) => state.me)
  const orders = useLive((state) => state.sitting?.orders)
  const recess = useLive((state) => state.sitting?.session.phase === 'recess')
  if (!me || !orders) return ''
  if (me.viewer === 'bench') return t('may.bench')
  if (recess) return t('may.recess')
  const speaks = me.may.includes('speak')
  const shows = me.may.includes('showCamera')
  const to = [
    ...(me.may.includes('writeToAll') ? [t('may.toAll')] : []),
    ...(me.may.includes('writeToBench') ? [t('may.toBench')] : []),
    ...(me.may.includes('writeToOne') ? [t('may.toOne')] : []),
  ]
  const verbs = [
    t('may.verbListen'),
    ...(speaks ? [t('may.speak')] : []),
    ...(shows ? [t('may.showCamera')] : []),
    ...(to.length > 0 ? [t('may.write', { to: to.length === 3 ? t('may.toAnybody') : listOf(to) })] : []),
    ...(me.may.includes('exhibit') ? [t('may.exhibit')] : []),
    ...(me.may.includes('mark') ? [t('may.mark')] : []),
    ...(me.may.includes('handOut') ? [t('may.handOut')] : []),
    ...(me.may.includes('recordOwn') ? [t('may.record')] : []),
    t('may.raiseHand'),
    ...(me.may.includes('react') ? [t('may.react')] : []),
  ]
  const parts = [t('may.sentence', { list: listOf(verbs) })]
  if (!speaks) parts.push(t('may.byLeave'))
  if (!shows) parts.push(t('may.camerasClosed', { who: t(orders.showCamera === 'bench' ? 'may.benchWho' : 'may.presentersWho') }))
  if (to.length === 0) parts.push(t('may.chatOff'))
  if (!me.may.includes('seePeople')) parts.push(t('may.listHidden'))
  return parts.join(' ')
}
