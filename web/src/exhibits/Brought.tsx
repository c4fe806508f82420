import { useTranslation } from 'react-i18next'
import { Button } from '../ui/Button'
import { useBringing, type SentFor } from './bringing'

/** Files on their way to the server. */
export function Brought({ use }: { use: SentFor }) {
  const { t } = useTranslation()
  const all = useBringing((state) => state.files)
  const files = all.filter((file) => file.for === use)
  if (files.length === 0) return null
  return (
    <ul aria-label={t('exhibits.coming')} className="flex flex-col gap-2 text-[0.844rem]">
      {files.map((file) => (
        <li key={file.id} className="flex items-center gap-2">
          <span className="min-w-0 flex-1">
            <span className="block overflow-hidden text-ellipsis whitespace-nowrap">{file.name}</span>
            {file.failed ? (
              <span role="alert" className="block font-medium text-brick">
                {file.failed}
              </span>
            ) : (
              <progress aria-label={file.name} max={1} value={file.came} className="block h-1.5 w-full accent-felt" />
            )}
          </span>
          <Button small onClick={file.stop}>
            {t(file.failed ? 'exhibits.dismiss' : 'exhibits.stop')}
          </Button>
        </li>
      ))}
    </ul>
  )
}
