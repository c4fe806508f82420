/** The first letters of the first and last word: "Nia Okafor" gives "NO". */
export function initialsOf(name: string): string {
  const words = name.split(' ').filter((word) => /[\p{L}\p{N}]/u.test(word))
  const picked = words.length > 1 ? [words[0]!, words[words.length - 1]!] : words
  return picked
    .map((word) => [...word.replace(/^[^\p{L}\p{N}]+/u, '')][0] ?? '')
    .join('')
    .toLocaleUpperCase()
}
