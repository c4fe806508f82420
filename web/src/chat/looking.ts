import type { ChatPage } from '../contract.generated'
import { questions } from '../live/connection'

/** After a question that was not answered: the line is lost, or too much was asked in a moment. */
const pause = 1000

/**
 * Looks back through the messages. The server looks through so many at once and says where to go on, so this asks until there
 * are enough, or there is nothing older, or nobody wants it any more.
 *
 * @param before the number from which it looks back; null for the newest
 * @param take gets all that was found so far, oldest first
 */
export async function lookBack(
  { before, find, enough }: { before: number | null; find: string | null; enough: number },
  isWanted: () => boolean,
  take: (found: ChatPage) => void,
): Promise<void> {
  let found: ChatPage = { rows: [], older: before }
  while (isWanted()) {
    const page = await questions.chat({ before: found.older, find })
    if (!isWanted()) return
    if (page) {
      found = { rows: [...page.rows, ...found.rows], older: page.older }
      take(found)
      if (found.older === null || found.rows.length >= enough) return
    } else {
      await new Promise((done) => setTimeout(done, pause))
    }
  }
}
