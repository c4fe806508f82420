import type { ReactNode } from 'react'

/** A part of the plan under a title of its own. */
export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="flex flex-col gap-2 border-t border-line pt-3">
      <legend className="pr-2 text-[0.844rem] font-semibold">{title}</legend>
      {children}
    </fieldset>
  )
}
