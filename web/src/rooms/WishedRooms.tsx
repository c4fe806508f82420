import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useTranslation } from 'react-i18next'
import type { RoomForm } from '../contract.generated'
import { roomFiles } from '../api/client'
import { Button } from '../ui/Button'
import { Failure } from '../ui/Failure'
import { saveFile } from '../ui/saveFile'
import { RoomEditor } from './RoomEditor'
import { newForm, roomName } from './words'

/** Before the session: how rooms are wished. Who goes where is worked out when people are there. */
export function WishedRooms({ form, onChange }: { form: RoomForm | null; onChange: (form: RoomForm | null) => void }) {
  const { t } = useTranslation()
  const [editing, setEditing] = useState(false)
  const write = useMutation({
    mutationFn: (wished: RoomForm) => roomFiles.write(wished),
    onSuccess: (table) => saveFile(new Blob(['\uFEFF', table], { type: 'text/csv' }), 'rooms.csv'),
  })
  if (editing)
    return (
      <RoomEditor
        form={form ?? newForm(4)}
        people={0}
        sitting={null}
        does={t('rooms.keep')}
        onPlan={(wished) => {
          onChange(wished)
          setEditing(false)
          return Promise.resolve(true)
        }}
        onClose={() => setEditing(false)}
      />
    )
  return (
    <div className="flex flex-col items-start gap-2">
      <p className="text-[0.875rem]">
        {form
          ? form.rooms.map((room, at) => roomName(t, { name: room.name, ordinal: at + 1 })).join(', ')
          : t('rooms.noneWished')}
      </p>
      <div className="flex flex-wrap gap-2">
        <Button small onClick={() => setEditing(true)}>
          {t(form ? 'rooms.change' : 'rooms.wish')}
        </Button>
        {form && (
          <Button small disabled={write.isPending} onClick={() => write.mutate(form)}>
            {t('rooms.export')}
          </Button>
        )}
        {form && (
          <Button small look="end" onClick={() => onChange(null)}>
            {t('common.remove')}
          </Button>
        )}
      </div>
      <Failure of={[write.error]} />
    </div>
  )
}
