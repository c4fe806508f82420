/** What was kept in this browser under a name; nothing where that cannot be read. */
export function kept<T extends object>(place: string): Partial<T> {
  try {
    return JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<T>
  } catch {
    return {}
  }
}
