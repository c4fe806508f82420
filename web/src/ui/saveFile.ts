/** Gives a file to whoever sits at the browser, as a download. */
export function saveFile(file: Blob, name: string) {
  const address = URL.createObjectURL(file)
  Object.assign(document.createElement('a'), { href: address, download: name }).click()
  // Until it has been read.
  setTimeout(() => URL.revokeObjectURL(address), 60_000)
}
