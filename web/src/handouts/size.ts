import { t } from 'i18next'

/** A file's size in words. */
export const sizeInWords = (bytes: number) =>
  bytes < 1_000_000
    ? t('files.kilobytes', { size: Math.max(1, Math.round(bytes / 1000)).toLocaleString() })
    : t('files.megabytes', { size: (Math.round(bytes / 100_000) / 10).toLocaleString() })
