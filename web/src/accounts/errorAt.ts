import { Refused } from '../api/client'

/** Puts a refusal beside the field that it is about; what belongs to none stands under `rest`. */
export function errorAt<T extends string>(
  error: Error | null,
  fields: Record<T, readonly string[]>,
): Partial<Record<T | 'rest', string>> {
  if (!error) return {}
  const reason = error instanceof Refused ? error.reason : ''
  const field = (Object.keys(fields) as T[]).find((name) => fields[name].includes(reason)) ?? 'rest'
  return { [field]: error.message } as Partial<Record<T | 'rest', string>>
}
