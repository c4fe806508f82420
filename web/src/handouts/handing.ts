import { t } from 'i18next'
import { handouts } from '../api/client'
import { tell } from '../live/store'
import { currentSitting } from '../live/connection'
import { sendFile } from '../exhibits/bringing'

/** Sends a file, and hands it out when all of it is there. */
export async function handOut(file: File, to: number | null, prints: boolean) {
  const sitting = currentSitting()
  await sendFile(file, 'handout', async (sent) => {
    await handouts.give(sitting, { file: sent, to, prints })
    tell(t('files.handedOut', { file: file.name }))
  })
}
