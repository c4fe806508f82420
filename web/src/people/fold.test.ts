import { expect, test } from 'vitest'
import { fold } from './fold'

test('names are found as they are typed on a plain keyboard', () => {
  const found = [
    ['Łukasz Wójcik', 'lukasz wojcik'],
    ['SØREN Ångström', 'soren angstrom'],
    ['Nguyễn Đức', 'nguyen duc'],
    ['Strauß', 'strauss'],
    ['ＦＵＬＬ ﬁne', 'full fine'],
    ['Дмитрий', 'дмитрии'],
    ['山田', '山田'],
  ]
  for (const [name, typed] of found) expect(fold(name!)).toBe(typed)
  expect(fold('ŁØSS')).toBe(fold('łøß'))
})
