import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow, RecordingFacet } from '../contract.generated'
import type { Sitting } from './store'
import { isOn } from '../recording/words'
import { useKeymap } from '../settings/keymap'
import { useMaySentence } from '../orders/useMaySentence'
import { isOwnAct, type Own } from './ownActs'
import { tell, useLive } from './store'

/** Says in words what others changed about oneself, and what holds for all from now on. */
export function useTellChanges() {
  const { t } = useTranslation()
  const me = useLive((state) => state.me)
  const sitting = useLive((state) => state.sitting)
  const sentence = useMaySentence()
  const before = useRef<{ me: MeRow | null; sitting: Sitting | null }>({ me: null, sitting: null })
  const gathered = useRef<string[]>([])
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const newest = useRef('')
  useEffect(() => {
    newest.current = sentence
  })
  useEffect(() => {
    const { me: was, sitting: wasSitting } = before.current
    before.current = { me, sitting }
    if (!was || !me || was.place !== 'seated' || me.place !== 'seated') return
    const hadFloor = wasSitting?.floor.turn?.seat === me.seat
    const hasFloor = sitting?.floor.turn?.seat === me.seat
    const byOther = (own: Own) => !isOwnAct(own, Date.now())
    // Whoever goes to another place reads there what holds; nobody has muted them.
    const stays = was.room === me.room
    const said: string[] = []
    if (was.role !== me.role) said.push(t('may.nowRole', { role: t(`role.${me.role}`) }))
    if (hadFloor && !hasFloor && byOther('floor')) said.push(t('floor.yoursOver'))
    if (!hadFloor && hasFloor && !me.asked && byOther('floor')) said.push(t('floor.yours'))
    if (stays && was.microphone === 'open' && me.microphone !== 'open' && byOther('microphone')) said.push(t('may.muted'))
    if (stays && was.cameraOn && !me.cameraOn && byOther('camera')) said.push(t('may.cameraTurnedOff'))
    if (shows(was) && !shows(me) && byOther('screen')) said.push(t('exhibits.notShownAnyMore'))
    if (!turns(was) && turns(me) && byOther('paging')) said.push(t('exhibits.pagingYours'))
    if (turns(was) && !turns(me) && byOther('paging')) said.push(t('exhibits.pagingOver'))
    if (was.wantsToShow && !me.wantsToShow && byOther('asking'))
      said.push(t(me.may.includes('exhibit') ? 'exhibits.mayShow' : 'exhibits.mayNotShow'))
    if (was.hand !== null && me.hand === null && !hasFloor && byOther('hand')) said.push(t('may.handLowered'))
    if (was.captioner === null && me.captioner !== null) said.push(t('captions.youAreNamed'))
    if (was.captioner !== null && me.captioner === null) said.push(t('captions.youAreReleased'))
    if (was.name !== me.name && byOther('name')) said.push(t('may.renamed', { name: me.name }))
    if (wasSitting && sitting) said.push(...forAll(wasSitting, sitting, me))
    // Said last, and as it stands then: it may change with several messages.
    if (was.role !== me.role || (me.viewer !== 'bench' && stays && was.may.join() !== me.may.join() && !me.asked))
      said.push(mayMark)
    // What was given and taken in the same moment is told once, as it ended.
    if (hadFloor && !hasFloor) gathered.current = gathered.current.filter((one) => one !== t('floor.yours'))
    for (const one of said) if (!gathered.current.includes(one)) gathered.current.push(one)
    if (said.length === 0 || timer.current) return
    // The parts of one change come in several messages.
    timer.current = setTimeout(() => {
      timer.current = undefined
      const sentences = gathered.current.splice(0)
      const others = sentences.filter((one) => one !== mayMark)
      const may = sentences.includes(mayMark)
        ? [others.length > 0 ? newest.current : t('may.changed', { sentence: newest.current })]
        : []
      const text = [...others, ...may].join(' ')
      tell(text, 'news', may.length > 0 ? 'may' : text)
    }, 150)

    function recordingNews(earlier: RecordingFacet, now: RecordingFacet): string[] {
      if (now.number !== earlier.number || (earlier.phase === 'stopped' && now.phase === 'running'))
        return [t('news.recordingStarted')]
      if (earlier.phase !== now.phase)
        return now.phase === 'paused'
          ? [t('news.recordingPaused')]
          : now.phase === 'running'
            ? [t('news.recordingResumed')]
            : [t('news.recordingStopped')]
      return isOn(now) && earlier.rules.watchers !== now.rules.watchers
        ? [t('news.recordingSeen', { who: t(`recording.seenBy.${now.rules.watchers}`) })]
        : []
    }

    function forAll(earlier: Sitting, now: Sitting, self: MeRow): string[] {
      return [
        ...(earlier.session.host !== null &&
        earlier.session.host !== now.session.host &&
        now.session.hostName &&
        self.role !== 'host'
          ? [t('news.leads', { host: now.session.hostName })]
          : []),
        ...(earlier.session.phase !== 'recess' && now.session.phase === 'recess' ? [t('news.recess')] : []),
        ...(earlier.session.phase === 'recess' && now.session.phase === 'inSession' ? [t('news.resumed')] : []),
        ...recordingNews(earlier.recording, now.recording),
        ...now.recording.own
          .filter((one) => one.seat !== self.seat && !earlier.recording.own.some((was) => was.seat === one.seat))
          .map((one) => (one.name ? t('ownRecording.begun', { name: one.name }) : t('ownRecording.begunBySomebody'))),
        ...(!earlier.captions.on && now.captions.on && self.captioner === null
          ? [t('news.captionsOn', { key: useKeymap.getState().captions })]
          : []),
        ...shownAnew(earlier, now, self).map((one) =>
          one.byName ? t('news.shown', { name: one.byName, letter: one.letter }) : t('news.isShown', { letter: one.letter }),
        ),
        ...(self.viewer !== 'bench' && earlier.door.locked !== now.door.locked
          ? [t(now.door.locked ? 'news.locked' : 'news.unlocked')]
          : []),
        ...(self.viewer !== 'bench' &&
        (earlier.picture.setting?.arrangement ?? null) !== (now.picture.setting?.arrangement ?? null)
          ? [
              now.picture.setting?.arrangement
                ? t('news.arrangement', { picture: t(`picture.${now.picture.setting.arrangement}`) })
                : t('news.arrangementFree'),
            ]
          : []),
      ]
    }
  }, [me, sitting, t])
}

const shows = (row: MeRow) => row.exhibits.some((one) => one.shown && one.by === row.seat)

/** Turns the pages of what somebody else brought. */
const turns = (row: MeRow) => row.exhibits.some((one) => one.shown && one.by !== row.seat)

/** What others show since just now. */
const shownAnew = (earlier: Sitting, now: Sitting, self: MeRow) =>
  now.shelf.exhibits.filter(
    (one) => one.shown && one.by !== self.seat && !earlier.shelf.exhibits.some((was) => was.shown && was.number === one.number),
  )

/** Stands for the sentence about what one may do, until it is said. */
const mayMark = '\u0000may'
