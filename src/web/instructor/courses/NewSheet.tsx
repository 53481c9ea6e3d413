import { Dialog } from 'radix-ui'
import type { FormEvent } from 'react'
import { useNavigate } from 'react-router'
import type { CourseView } from '../../../contract/courses.ts'
import { addSheet } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Field } from '../../kit/Field.tsx'
import { FormBox } from '../../kit/FormBox.tsx'

/** Asks for the title of a new sheet, and begins it. */
export function NewSheet({
  course,
  onClose,
}: {
  course: Pick<CourseView, 'code' | 'courseCode'>
  onClose: () => void
}) {
  const navigate = useNavigate()
  const unsent = useUnsent(`new sheet ${course.code}`, '')
  const title = unsent.value
  const act = useAct()
  const add = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(addSheet, { course: course.code }, { title }),
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    navigate(`/sheets/${done.answer.code}/compose`)
  }
  return (
    <FormBox title={`New sheet in ${course.courseCode}`} onClose={onClose} onSubmit={add}>
      <Field
        label="Title"
        value={title}
        maxLength={LIMITS.title}
        onChange={({ target }) => unsent.write(target.value)}
        hint="What students read first. It can be changed later."
        fault={act.fault?.field('title') ?? act.fault?.message}
      />
      <div className="flex justify-end gap-2 border-t tear pt-4">
        <Dialog.Close asChild>
          <Button>Cancel</Button>
        </Dialog.Close>
        <Button type="submit" look="main" busy={act.busy} disabled={title.trim() === ''}>
          Write the sheet
        </Button>
      </div>
    </FormBox>
  )
}
