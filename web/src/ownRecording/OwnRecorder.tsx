import { useEffect, useRef } from 'react'
import { useTranslation } from 'react-i18next'
import type { MeRow } from '../contract.generated'
import { isHere } from '../rooms/bays'
import { tell, useLive, type Sitting } from '../live/store'
import { media } from '../media/engine'
import { FilmStage } from './FilmStage'
import { endOwnFilm, setStage, useOwnFilm } from './ownFilm'

/** While one records on this machine: the stage that is drawn, whose voices are kept, and the end when it may not go on. */
export function OwnRecorder({ me, sitting }: { me: MeRow; sitting: Sitting }) {
  const { t } = useTranslation()
  const phase = useOwnFilm((state) => state.phase)
  const seats = useLive((state) => state.seats)
  const on = phase !== 'off'
  const told = sitting.recording.own.some((one) => one.seat === me.seat)
  const wasTold = useRef(false)
  useEffect(() => {
    // Whoever has not agreed is in no recording, also where that is made by a page.
    const keeps = [...seats.values()].filter((seat) => isHere(seat, me) && seat.recordable && seat.id !== me.seat)
    if (on)
      media.recorded.keep(
        keeps.map((seat) => seat.id),
        me.recordingAnswer !== 'unrecorded',
      )
  }, [seats, on, me])
  useEffect(() => {
    if (!on) wasTold.current = false
    else if (told) wasTold.current = true
    else if (wasTold.current && phase !== 'ends') {
      tell(t('ownRecording.endedByOthers'), 'news')
      void endOwnFilm()
    }
  }, [on, told, phase, t])
  // Whoever leaves has what was recorded until then.
  useEffect(() => () => void endOwnFilm(), [])
  if (!on) return null
  return <FilmStage root={setStage} me={me} framing={sitting.recording.rules.framing} />
}
