import { useId, type InputHTMLAttributes, type ReactNode, type SelectHTMLAttributes, type TextareaHTMLAttributes } from 'react'

const box = 'w-full rounded-sm border border-edge bg-raised px-2.5 text-[0.938rem] min-h-9'

interface Label {
  label: string
  error?: string | undefined
}

function Labelled({ id, label, children }: { id: string; label: string; children: ReactNode }) {
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[0.844rem] font-semibold">
        {label}
      </label>
      {children}
    </div>
  )
}

export function Field({ label, error, ...rest }: Label & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId()
  return (
    <Labelled id={id} label={label}>
      <input
        id={id}
        className={box}
        aria-invalid={Boolean(error)}
        aria-describedby={error ? `${id}-error` : undefined}
        {...rest}
      />
      {error && (
        <p id={`${id}-error`} role="alert" className="mt-1 text-[0.844rem] font-medium text-brick">
          {error}
        </p>
      )}
    </Labelled>
  )
}

export function Select({ label, children, ...rest }: Label & SelectHTMLAttributes<HTMLSelectElement>) {
  const id = useId()
  return (
    <Labelled id={id} label={label}>
      <select id={id} className={box} {...rest}>
        {children}
      </select>
    </Labelled>
  )
}

/** Words of the host's own, several lines. */
export function Words({ label, ...rest }: Label & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const id = useId()
  return (
    <Labelled id={id} label={label}>
      <textarea
        id={id}
        rows={3}
        maxLength={500}
        className="w-full rounded-sm border border-edge bg-raised p-2 text-[0.875rem]"
        {...rest}
      />
    </Labelled>
  )
}

export function Tick({ label, ...rest }: Label & InputHTMLAttributes<HTMLInputElement>) {
  const id = useId()
  return (
    <div className="flex min-h-6 items-start gap-2.5 py-1">
      <input id={id} type="checkbox" className="-m-0.5 size-6 shrink-0 accent-felt" {...rest} />
      <label htmlFor={id} className="text-[0.875rem]">
        {label}
      </label>
    </div>
  )
}
