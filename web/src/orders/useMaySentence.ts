import { useTranslation } from 'react-i18next'
import { listOf } from '../i18n'
import { useLive } from '../live/store'

/** The one sentence that says what one may do now. */
export function useMaySentence(): string {
  const { t } = useTranslation()
  const me = useLive((state) => state.me)
  const orders = useLive((state) => state.sitting?.orders)
  if (!me || !orders) return ''
  if (me.viewer === 'bench') return t('may.bench')
  const speaks = me.may.includes('speak')
  const shows = me.may.includes('showCamera')
  const verbs = [t('may.verbListen'), ...(speaks ? [t('may.speak')] : []), ...(shows ? [t('may.showCamera')] : [])]
  const parts = [t('may.sentence', { list: listOf(verbs) })]
  if (!speaks) parts.push(t('may.byLeave'))
  if (!shows) parts.push(t('may.camerasClosed', { who: t(orders.showCamera === 'bench' ? 'may.benchWho' : 'may.presentersWho') }))
  return parts.join(' ')
}
