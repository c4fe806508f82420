import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import { keepEntryWish, takeEntryWish } from '../admission/entry'
import { wish } from '../live/connection'
import { tell, useLive } from '../live/store'
import { media, useMedia } from './engine'

/** One's own microphone as it is, not as it is meant to be: it is on only while what it takes up is sent. */
export function useOwnMicrophone(): 'on' | 'off' | 'byLeave' | 'starts' | 'mute' | 'rests' {
  const state = useLive(({ me }) => me?.microphone)
  const rests = useLive(({ me, sitting }) => sitting?.session.phase === 'recess' && me?.viewer !== 'bench')
  const up = useMedia((media) => media.up)
  const sounds = useMedia((media) => media.sounds)
  if (state !== 'open') return state === 'byLeave' ? 'byLeave' : 'off'
  if (rests) return 'rests'
  if (sounds === false) return 'mute'
  return up && sounds ? 'on' : 'starts'
}

/** Camera and microphone follow the server's state: what is not open there is not captured here. */
export function useOwnDevices() {
  const { t } = useTranslation()
  const seated = useLive(({ me }) => me?.place === 'seated')
  // During a recess only the bench is heard and seen, by itself alone.
  const plays = useLive(
    ({ me, sitting }) =>
      me?.place === 'seated' &&
      (sitting?.session.phase === 'inSession' ||
        sitting?.session.phase === 'prepare' ||
        (sitting?.session.phase === 'recess' && me.viewer === 'bench')),
  )
  const microphone = useLive(({ me }) => me?.microphone === 'open') && plays
  const camera = useLive(({ me }) => me?.cameraOn === true) && plays
  const failure = useMedia((state) => state.failure)

  useEffect(() => media.setMicrophone(microphone), [microphone])
  useEffect(() => media.setCamera(camera), [camera])

  // Whoever is sent to the lobby comes back as they were: with the camera on, if it was.
  const me = useLive((state) => state.me)
  const before = useRef(me)
  useEffect(() => {
    if (before.current?.place === 'seated' && me?.place === 'lobby')
      keepEntryWish({ camera: before.current.cameraOn, microphone: false })
    before.current = me
  }, [me])

  // How one wished to enter is carried out once, on being seated.
  useEffect(() => {
    if (!seated) return
    const entry = takeEntryWish()
    const me = useLive.getState().me
    if (entry?.camera && !me?.cameraOn && me?.may.includes('showCamera')) void wish({ do: 'turnCamera', on: true })
    if (entry?.microphone && me?.microphone === 'closed' && me.may.includes('speak')) void wish({ do: 'openMicrophone' })
  }, [seated])

  useEffect(() => {
    if (!failure.camera) return
    tell(t(`check.camera${failure.camera}`), 'refusal')
    if (useLive.getState().me?.cameraOn) void wish({ do: 'turnCamera', on: false })
  }, [failure.camera, t])

  useEffect(() => {
    if (!failure.microphone) return
    tell(t(`check.microphone${failure.microphone}`), 'refusal')
    if (useLive.getState().me?.microphone === 'open') void wish({ do: 'closeMicrophone' })
  }, [failure.microphone, t])
}

/** What shows that one is heard and seen is gone: so neither is sent any more. */
export function silence() {
  const me = useLive.getState().me
  media.setMicrophone(false)
  media.setCamera(false)
  if (me?.microphone === 'open') void wish({ do: 'closeMicrophone' })
  if (me?.cameraOn) void wish({ do: 'turnCamera', on: false })
}

/** One's own switches: at once here, and then at the server. */
export const switches = {
  microphone() {
    const me = useLive.getState().me
    if (!me) return
    if (me.microphone === 'open') {
      media.setMicrophone(false)
      void wish({ do: 'closeMicrophone' })
    } else {
      media.allowSound()
      void wish({ do: 'openMicrophone' })
    }
  },
  camera() {
    const me = useLive.getState().me
    if (!me) return
    if (me.cameraOn) media.setCamera(false)
    void wish({ do: 'turnCamera', on: !me.cameraOn })
  },
  hand() {
    const { me, sitting } = useLive.getState()
    if (!me) return
    const holds = sitting?.floor.turn?.seat === me.seat
    if (!holds && me.hand === null && !me.may.includes('raiseHand')) return
    void wish({ do: holds ? 'yieldFloor' : me.hand === null ? 'raiseHand' : 'lowerHand' })
  },
}
