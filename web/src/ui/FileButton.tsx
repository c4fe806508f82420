import { clsx } from 'clsx'
import { useId } from 'react'

/** A button that asks for a file. */
export function FileButton({ label, accept, onFile }: { label: string; accept: string; onFile: (file: File) => void }) {
  const id = useId()
  return (
    <span>
      <input
        id={id}
        type="file"
        accept={accept}
        className="peer sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) onFile(file)
          e.target.value = ''
        }}
      />
      <label
        htmlFor={id}
        className={clsx(
          'inline-flex min-h-9 cursor-pointer items-center rounded-sm border border-edge bg-paper px-3.5',
          'text-[0.875rem] font-semibold text-felt-ink peer-focus-visible:outline-2',
          'peer-focus-visible:outline-brass hover:bg-felt-soft',
        )}
      >
        {label}
      </label>
    </span>
  )
}
