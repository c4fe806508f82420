/** Parts of one place, as their numbers say; those that are left out are left out. */
export const inOrder = <T extends { at: number }>(all: readonly (T | undefined)[]): T[] =>
  all.filter((one) => one !== undefined).sort((one, other) => one.at - other.at)
