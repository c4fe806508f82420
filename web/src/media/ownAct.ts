/** When the reader last did something about themselves or the floor, to tell one's own acts from others'. */
export const ownAct = { at: 0 }
