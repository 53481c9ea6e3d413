import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import type { MeetingView } from '../../contract/groupCalendar.ts'
import type { GroupPage } from '../../contract/groups.ts'
import { addMeeting, changeMeeting, removeMeeting } from '../../contract/meetings.ts'
import { localTimeOf } from '../../core/zone.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Field } from '../kit/Field.tsx'
import { FormBox } from '../kit/FormBox.tsx'
import { FormFault } from '../kit/FormFault.tsx'
import { sentTime, TimeField } from '../kit/TimeField.tsx'

interface Draft {
  title: string
  place: string
  link: string
  starts: string
  /** As they were typed. */
  minutes: string
  weeks: string
}

/** Sets a meeting of the group, or changes one: once, or each week. */
export function MeetingAsk({
  page,
  meeting,
  put,
  onClose,
}: {
  page: GroupPage
  meeting: MeetingView | null
  put: (page: GroupPage) => void
  onClose: () => void
}) {
  const { zone } = page.sheet
  const [first] = useState<Draft>(() => ({
    title: meeting?.title ?? '',
    place: meeting?.place ?? '',
    link: meeting?.link ?? page.meeting,
    starts: meeting ? localTimeOf(meeting.startsAt, zone) : '',
    minutes: String(meeting?.minutes ?? 60),
    weeks: String(meeting?.weeks ?? 1),
  }))
  // Half typed, it is there again when this is opened anew.
  const unsent = useUnsent<Draft>(
    `meeting ${page.code} ${meeting ? `${meeting.code} ${JSON.stringify(first)}` : ''}`,
    first,
  )
  const draft = unsent.value
  const set = (more: Partial<Draft>) => unsent.write({ ...draft, ...more })
  const act = useAct()
  const { fault, busy } = act
  const params = { sheet: page.sheet.code, group: page.code }
  const known = new Set(page.calendar?.meetings.map(({ code }) => code))
  const bodyOf = ({ title, place, link, starts, minutes, weeks }: Draft) => ({
    title,
    place,
    link,
    startsAt: sentTime(starts) ?? '',
    minutes: Number(minutes),
    weeks: Number(weeks),
  })
  const save = async (event: FormEvent) => {
    event.preventDefault()
    let made = meeting?.code ?? ''
    const done = await act.do({
      work: async () => {
        if (meeting) return call(changeMeeting, { ...params, meeting: meeting.code }, bodyOf(draft))
        const next = await call(addMeeting, params, bodyOf(draft))
        made = next.calendar?.meetings.find(({ code }) => !known.has(code))?.code ?? ''
        return next
      },
      undo: () =>
        meeting
          ? call(changeMeeting, { ...params, meeting: meeting.code }, bodyOf(first))
          : call(removeMeeting, { ...params, meeting: made }),
      put,
      said: meeting ? `“${draft.title}” is changed.` : 'The meeting is set; it is in everybody’s calendar.',
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <FormBox title={meeting ? 'Change the meeting' : 'Set a meeting'} onClose={onClose} onSubmit={save}>
      <Field
        label="What it is"
        maxLength={120}
        placeholder="Feeding and weighing"
        value={draft.title}
        onChange={({ target }) => set({ title: target.value })}
        fault={fault?.field('title')}
      />
      <TimeField
        label="When"
        usual="14:00"
        value={draft.starts}
        onValue={(starts) => set({ starts })}
        fault={fault?.field('startsAt')}
      />
      <div className="grid grid-cols-2 gap-3">
        <Field
          label="Minutes"
          inputMode="numeric"
          value={draft.minutes}
          onChange={({ target }) => set({ minutes: target.value })}
          fault={fault?.field('minutes')}
        />
        <Field
          label="Weeks in a row"
          hint="1 for once."
          inputMode="numeric"
          value={draft.weeks}
          onChange={({ target }) => set({ weeks: target.value })}
          fault={fault?.field('weeks')}
        />
      </div>
      <Field
        label="Place"
        maxLength={200}
        value={draft.place}
        onChange={({ target }) => set({ place: target.value })}
        fault={fault?.field('place')}
      />
      <Field
        label="Link"
        type="url"
        placeholder="https://"
        value={draft.link}
        onChange={({ target }) => set({ link: target.value })}
        fault={fault?.field('link')}
      />
      <FormFault fault={fault} fields={['title', 'startsAt', 'minutes', 'weeks', 'place', 'link']} />
      <div className="flex justify-end gap-2 border-t tear pt-4">
        <Dialog.Close asChild>
          <Button size="touch">Cancel</Button>
        </Dialog.Close>
        <Button type="submit" look="main" size="touch" busy={busy}>
          {meeting ? 'Save changes' : 'Set the meeting'}
        </Button>
      </div>
    </FormBox>
  )
}
