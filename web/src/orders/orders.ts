import type { Audience, Order, StandingOrders } from '../contract.generated'

/** In the order in which they are shown. */
export const orders: readonly Order[] = [
  'speak',
  'showCamera',
  'exhibit',
  'mark',
  'handOut',
  'record',
  'writeToAll',
  'writeToBench',
  'writeToOne',
  'seeChat',
  'react',
  'seePeople',
  'rename',
]
export const audiences: readonly Audience[] = ['everyone', 'presenters', 'bench']

/** Single seats may be excepted from these; the others go by the kind of viewer. */
export const exceptable: readonly Order[] = orders.filter((order) => order !== 'seePeople' && order !== 'seeChat')

export const usualOrders: StandingOrders = {
  speak: 'everyone',
  showCamera: 'everyone',
  rename: 'everyone',
  seePeople: 'everyone',
  writeToAll: 'everyone',
  writeToBench: 'everyone',
  writeToOne: 'everyone',
  seeChat: 'everyone',
  react: 'everyone',
  exhibit: 'presenters',
  mark: 'presenters',
  handOut: 'presenters',
  record: 'bench',
}

/** Among few, everybody shows and draws. */
export const usualInRooms: StandingOrders = { ...usualOrders, exhibit: 'everyone', mark: 'everyone' }
