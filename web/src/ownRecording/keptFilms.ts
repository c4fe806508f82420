import { create } from 'zustand'

/** A recording that lies in this browser. */
export interface KeptFilm {
  name: string
  /** In bytes. */
  size: number
  /** In milliseconds since 1970. */
  at: number
}

export const useKeptFilms = create<{ films: readonly KeptFilm[] }>(() => ({ films: [] }))

const folder = async () => (await navigator.storage.getDirectory()).getDirectoryHandle('recordings', { create: true })

/** Looks what lies there. The one that is being written can be told apart by its name alone. */
export async function lookForFilms() {
  try {
    const films: KeptFilm[] = []
    for await (const one of (await folder()).values())
      if (one.kind === 'file') {
        const file = await (one as FileSystemFileHandle).getFile()
        films.push({ name: one.name, size: file.size, at: file.lastModified })
      }
    useKeptFilms.setState({ films: films.sort((a, b) => b.at - a.at) })
  } catch {
    // A browser without such a folder has none.
    useKeptFilms.setState({ films: [] })
  }
}

/** Hands it to the browser to save as a file; it stays here until it is removed. */
export async function saveFilm(name: string) {
  const file = await (await (await folder()).getFileHandle(name)).getFile()
  const address = URL.createObjectURL(new File([file], name, { type: 'video/webm' }))
  const link = document.createElement('a')
  link.href = address
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(address), 60_000)
}

export async function removeFilm(name: string) {
  await (await folder()).removeEntry(name)
  await lookForFilms()
}
