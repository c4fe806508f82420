import { useTranslation } from 'react-i18next'
import { Choice } from '../ui/Choice'
import { arrange, useView, type Arrangement } from './view'

export function PictureChoice() {
  const { t } = useTranslation()
  const arrangement = useView((state) => state.arrangement)
  return (
    <Choice<Arrangement>
      label={t('picture.title')}
      value={arrangement}
      options={[
        { value: 'lead', label: t('picture.lead'), hint: t('picture.leadHint') },
        { value: 'even', label: t('picture.even'), hint: t('picture.evenHint') },
      ]}
      onChange={arrange}
    />
  )
}
