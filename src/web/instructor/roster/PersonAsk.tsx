import { useState } from 'react'
import type { CourseView } from '../../../contract/courses.ts'
import { addPerson, changePerson, type RosterView } from '../../../contract/roster.ts'
import type { EnrolmentStatus, Role } from '../../../core/roster.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field, FieldFrame } from '../../kit/Field.tsx'

/** Somebody as the fields hold them. */
interface Draft {
  name: string
  email: string
  section: string | null
  role: Role
  status: EnrolmentStatus
}

/** Adds a person to the roster by hand, or changes one. */
export function PersonAsk({
  course,
  person,
  put,
  onClose,
}: {
  course: CourseView
  /** Whom to change; null adds somebody. */
  person: RosterView['people'][number] | null
  put: (view: RosterView) => void
  onClose: () => void
}) {
  const codeOf = (name: string | null) =>
    course.sections.find((section) => section.name === name)?.code ?? null
  const [first] = useState<Draft>(() => ({
    name: person?.name ?? '',
    email: person?.email ?? '',
    section: person ? codeOf(person.section) : (course.sections[0]?.code ?? null),
    role: person?.role ?? 'student',
    status: person?.status ?? 'active',
  }))
  // Half typed, it is there again when this is opened anew; what was changed meanwhile begins anew.
  const about = person ? `${person.code} ${JSON.stringify(first)}` : ''
  const unsent = useUnsent(`person ${course.code} ${about}`, first)
  const { name, email, section, role, status } = unsent.value
  const set = (more: Partial<Draft>) => unsent.write({ ...unsent.value, ...more })
  const [freeSeats, setFreeSeats] = useState(true)
  const act = useAct()
  const { fault, busy } = act
  const stops = person?.status === 'active' && status !== 'active'
  const keep = async () => {
    const fields = { name, email, section, role }
    const done = await act.do({
      work: () =>
        person
          ? call(
              changePerson,
              { course: course.code, person: person.code },
              { ...fields, status, freeSeats: stops && freeSeats },
            )
          : call(addPerson, { course: course.code }, fields),
      put,
      said: person ? `${name} is changed.` : `${name} is on the roster.`,
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <Ask
      open
      title={person ? `Change ${person.name}` : 'Add a person'}
      yes={person ? 'Save person' : 'Add person'}
      busy={busy}
      onYes={() => void keep()}
      onNo={onClose}
    >
      <Field
        label="Name"
        value={name}
        onChange={(event) => set({ name: event.target.value })}
        fault={fault?.field('name')}
      />
      <Field
        label="Email address"
        type="email"
        value={email}
        onChange={(event) => set({ email: event.target.value })}
        fault={fault?.field('email')}
      />
      <div className="grid grid-cols-2 gap-3">
        {course.sections.length > 0 && (
          <FieldFrame label="Section" fault={fault?.field('section')}>
            {(ids) => (
              <Choice {...ids} value={section ?? ''} onValue={(value) => set({ section: value || null })}>
                <option value="">none</option>
                {course.sections.map(({ code, name }) => (
                  <option key={code} value={code}>
                    {name}
                  </option>
                ))}
              </Choice>
            )}
          </FieldFrame>
        )}
        <FieldFrame label="Role" fault={fault?.field('role')}>
          {(ids) => (
            <Choice {...ids} value={role} onValue={(value) => set({ role: value as Role })}>
              <option>student</option>
              <option>tutor</option>
              <option>instructor</option>
            </Choice>
          )}
        </FieldFrame>
        {person && (
          <FieldFrame label="Status">
            {(ids) => (
              <Choice {...ids} value={status} onValue={(value) => set({ status: value as EnrolmentStatus })}>
                <option>active</option>
                <option>paused</option>
                <option>left</option>
              </Choice>
            )}
          </FieldFrame>
        )}
      </div>
      {stops && (
        <Check checked={freeSeats} onValue={setFreeSeats} className="text-ink">
          Free their seats, so that others can take them
        </Check>
      )}
      {fault && !fault.problem.errors && (
        <p role="alert" className="text-ember">
          {fault.message}
        </p>
      )}
    </Ask>
  )
}
