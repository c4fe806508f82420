import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { ownAct } from '../media/useOwnDevices'
import { useMaySentence } from '../orders/useMaySentence'
import { tell, useLive } from './store'

/** Says in words what others changed about oneself. */
export function useChangesTold() {
  const { t } = useTranslation()
  const me = useLive((state) => state.me)
  const sentence = useMaySentence()
  const before = useRef<MeRow | null>(null)
  useEffect(() => {
    const was = before.current
    before.current = me
    if (!was || !me || was.place !== 'seated' || me.place !== 'seated') return
    const byMyself = Date.now() - ownAct.at < 1500
    if (was.role !== me.role) return tell(`${t('may.nowRole', { role: t(`role.${me.role}`) })} ${sentence}`)
    const said: string[] = []
    if (was.microphone === 'open' && me.microphone !== 'open' && !byMyself) said.push(t('may.muted'))
    if (was.cameraOn && !me.cameraOn && !byMyself) said.push(t('may.cameraTurnedOff'))
    if (me.viewer !== 'bench' && was.may.join() !== me.may.join() && !me.asked) said.push(t('may.changed', { sentence }))
    if (said.length > 0) tell(said.join(' '))
  }, [me, sentence, t])
}
