import type { PageTopic } from '../topics/slots'
import { PictureItem } from './PictureItem'
import { toggleFullScreen } from './view'

export const picture: PageTopic = {
  ribbon: { at: 30, Item: PictureItem },
  acts: () => ({ fullScreen: toggleFullScreen }),
}
