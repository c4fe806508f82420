import { clsx } from 'clsx'
import type { ButtonHTMLAttributes } from 'react'

type Look = 'primary' | 'plain' | 'text' | 'end'

const looks: Record<Look, string> = {
  primary: 'bg-felt text-on-felt border-felt hover:bg-felt-line',
  plain: 'bg-paper text-felt-ink border-edge hover:bg-felt-soft',
  text: clsx(
    'bg-transparent text-felt-ink border-transparent underline decoration-line decoration-2',
    'underline-offset-4 hover:decoration-current px-1',
  ),
  end: 'bg-paper text-brick border-brick hover:bg-brick-soft',
}

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: Look
  small?: boolean
}

export function Button({ look = 'plain', small = false, className = '', type = 'button', ...rest }: Props) {
  const size = small ? 'min-h-6.5 px-2 text-[0.781rem]' : 'min-h-9 px-3.5 text-[0.875rem]'
  return (
    <button
      type={type}
      className={`rounded-sm border font-semibold whitespace-nowrap disabled:opacity-60 ${size} ${looks[look]} ${className}`}
      {...rest}
    />
  )
}
