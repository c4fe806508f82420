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
  const turn = useLive((state) => state.sitting?.turn?.seat ?? null)
  const turnBefore = useRef<number | null>(null)
  const gathered = useRef<string[]>([])
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  useEffect(() => {
    const was = before.current
    before.current = me
    const hadFloor = turnBefore.current !== null && turnBefore.current === me?.seat
    turnBefore.current = turn
    if (!was || !me || was.place !== 'seated' || me.place !== 'seated') return
    const byMyself = Date.now() - ownAct.at < 1500
    if (was.role !== me.role) return tell(`${t('may.nowRole', { role: t(`role.${me.role}`) })} ${sentence}`)
    const said: string[] = []
    if (hadFloor && turn !== me.seat) said.push(t('floor.yoursOver'))
    if (!hadFloor && turn === me.seat && !me.asked) said.push(t('floor.yours'))
    if (was.microphone === 'open' && me.microphone !== 'open' && !byMyself) said.push(t('may.muted'))
    if (was.cameraOn && !me.cameraOn && !byMyself) said.push(t('may.cameraTurnedOff'))
    if (me.viewer !== 'bench' && was.may.join() !== me.may.join() && !me.asked) said.push(t('may.changed', { sentence }))
    for (const sentence of said) if (!gathered.current.includes(sentence)) gathered.current.push(sentence)
    if (said.length === 0 || timer.current) return
    // The parts of one change come in several messages.
    timer.current = setTimeout(() => {
      timer.current = undefined
      tell(gathered.current.splice(0).join(' '))
    }, 150)
  }, [me, turn, sentence, t])
}
