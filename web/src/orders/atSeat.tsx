import type { PageTopic } from '../topics/slots'
import { useMaySentence } from './useMaySentence'

function MaySentence() {
  return (
    <p className="flex flex-1 items-center font-serif text-[0.969rem] leading-snug" data-testid="may">
      {useMaySentence()}
    </p>
  )
}

export const orders: PageTopic = { foot: { at: 10, Item: MaySentence } }
