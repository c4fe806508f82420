import type { ReactNode } from 'react'

export const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="border-t-2 border-felt pt-2">
    <h2 className="mb-2 font-serif text-[1.062rem] font-semibold">{title}</h2>
    {children}
  </section>
)

export const Saved = ({ address, label }: { address: string; label: string }) => (
  <li className="list-none">
    <a href={address} download className="inline-flex min-h-6 items-center underline underline-offset-4">
      {label}
    </a>
  </li>
)
