/** Letters of their own that are typed without their stroke, and what they are typed as; the matcher of the core has the same. */
const plain: Readonly<Record<string, string>> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ł: 'l',
  ı: 'i',
  ħ: 'h',
}

/** A name as it is looked for: without case, marks and strokes, so that "lukasz" finds "Łukasz". */
export const fold = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[ßæœøđðþłıħ]/g, (letter) => plain[letter]!)
