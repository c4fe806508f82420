import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import { Button } from './Button'

export function CopyButton({ text, label }: { text: string; label: string }) {
  const { t } = useTranslation()
  const [copied, setCopied] = useState(false)
  const copy = async () => {
    await navigator.clipboard.writeText(text)
    setCopied(true)
    setTimeout(() => setCopied(false), 2500)
  }
  return (
    <>
      <Button onClick={() => void copy()}>{copied ? t('common.copied') : label}</Button>
      <span role="status" className="sr-only">
        {copied ? t('common.copied') : ''}
      </span>
    </>
  )
}
