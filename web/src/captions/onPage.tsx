import type { PageTopic, Show, Within } from '../topics/slots'
import { Captioned } from './CaptionStrip'
import { CaptionsSide } from './CaptionsSide'
import { toggleCaptions } from './store'
import { useNamed } from './useNamed'

function Watch({ me, show }: Within & { show: Show }) {
  useNamed(me, () => show('captions'))
  return null
}

/** At a seat its part is there while there is something to read or to write. */
export const captions = (always: boolean): PageTopic => ({
  beside: {
    at: 60,
    key: 'captions',
    letter: 'w',
    label: (t) => t('captions.title'),
    isThere: ({ me, sitting }) => always || sitting.captions.on || me.captioner !== null,
    isWide: ({ me }) => me.captioner !== null,
    Content: ({ me }: Within) => <CaptionsSide me={me} />,
  },
  Around: Captioned,
  Watch,
  acts: () => ({ captions: toggleCaptions }),
})
