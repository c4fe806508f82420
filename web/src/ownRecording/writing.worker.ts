// Writes a file in the browser's own folder, each piece at once where it belongs, so that what was written stays when the page goes.

/** A file that is written in place. */
interface Written {
  write(data: Uint8Array<ArrayBuffer>, options: { at: number }): number
  truncate(size: number): void
  flush(): void
  close(): void
}

interface Open {
  do: 'open'
  name: string
}
interface Write {
  do: 'write'
  id: number
  data: Uint8Array<ArrayBuffer>
  position: number
}
export type ToWriter = Open | Write | { do: 'close' }
export type FromWriter = { is: 'open' } | { is: 'written'; id: number } | { is: 'closed' } | { is: 'failed'; why: string }

let handle: Written | null = null
const say = (message: FromWriter) => postMessage(message)

async function open(name: string) {
  const root = await navigator.storage.getDirectory()
  const folder = await root.getDirectoryHandle('recordings', { create: true })
  const file = (await folder.getFileHandle(name, { create: true })) as FileSystemFileHandle & {
    createSyncAccessHandle: () => Promise<Written>
  }
  handle = await file.createSyncAccessHandle()
  handle.truncate(0)
  say({ is: 'open' })
}

onmessage = ({ data }: MessageEvent<ToWriter>) => {
  const failed = (error: unknown) => say({ is: 'failed', why: error instanceof Error ? error.name : 'Error' })
  try {
    if (data.do === 'open') void open(data.name).catch(failed)
    else if (data.do === 'write') {
      handle?.write(data.data, { at: data.position })
      handle?.flush()
      say({ is: 'written', id: data.id })
    } else {
      handle?.close()
      handle = null
      say({ is: 'closed' })
    }
  } catch (error) {
    failed(error)
  }
}
