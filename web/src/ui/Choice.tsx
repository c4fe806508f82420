import { clsx } from 'clsx'
import { RadioGroup } from 'radix-ui'
import { Fragment, useId, type ReactNode } from 'react'

interface Props<T extends string> {
  label: string
  value: T | undefined
  /** `more` stands below an option, for what belongs to it alone. */
  options: readonly { value: T; label: string; hint?: string; more?: ReactNode }[]
  onChange: (value: T) => void
}

/** One of a few, each with what it means. */
export function Choice<T extends string>({ label, value, options, onChange }: Props<T>) {
  const id = useId()
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value ?? null}
      onValueChange={(next) => onChange(next as T)}
      className="flex flex-col"
    >
      {options.map((option) => (
        <Fragment key={option.value}>
          <div className="flex items-start gap-2.5 py-1.5">
            <RadioGroup.Item
              id={`${id}-${option.value}`}
              value={option.value}
              className={clsx(
                'mt-0.5 grid size-4.5 shrink-0 place-items-center rounded-full border border-edge bg-paper',
                'data-[state=checked]:border-felt-ink',
              )}
            >
              <RadioGroup.Indicator className="size-2.5 rounded-full bg-felt-ink" />
            </RadioGroup.Item>
            <label htmlFor={`${id}-${option.value}`} className="cursor-pointer text-[0.875rem] leading-snug">
              <span className="font-semibold">{option.label}</span>
              {option.hint && <span className="block text-[0.812rem] text-ink2">{option.hint}</span>}
            </label>
          </div>
          {option.more && <div className="mb-1 ml-7">{option.more}</div>}
        </Fragment>
      ))}
    </RadioGroup.Root>
  )
}
