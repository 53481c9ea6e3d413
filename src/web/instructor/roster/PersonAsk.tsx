import { useState } from 'react'
import type { CourseView } from '../../../contract/courses.ts'
import { addPerson, changePerson, type RosterView } from '../../../contract/roster.ts'
import { LIMITS } from '../../../core/limits.ts'
import { nameParts } from '../../../core/names.ts'
import type { EnrolmentStatus, Role } from '../../../core/roster.ts'
import { call } from '../../data/call.ts'
import { changesBetween } from '../../data/rebased.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Ask } from '../../kit/Ask.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field, FieldFrame } from '../../kit/Field.tsx'

/** Somebody as the fields hold them. */
interface Draft {
  name: string
  given: string
  family: string
  called: string
  number: string
  email: string
  section: string | null
  role: Role
  status: EnrolmentStatus
  /** What is said of them besides, by the names of the roster's columns. */
  attributes: Record<string, string>
  /** A further one, as far as it is typed. */
  further: { name: string; value: string }
}

/** Adds a person to the roster by hand, or changes one. */
export function PersonAsk({
  course,
  person,
  people,
  put,
  onClose,
}: {
  course: CourseView
  /** Whom to change; null adds somebody. */
  person: RosterView['people'][number] | null
  /** Everybody on the roster. */
  people: readonly RosterView['people'][number][]
  put: (view: RosterView) => void
  onClose: () => void
}) {
  const columns = [...new Set(people.flatMap(({ attributes }) => Object.keys(attributes)))]
  const codeOf = (name: string | null) =>
    course.sections.find((section) => section.name === name)?.code ?? null
  const [first] = useState<Draft>(() => ({
    name: person?.name ?? '',
    given: person?.given ?? '',
    family: person?.family ?? '',
    called: person?.called ?? '',
    number: person?.number ?? '',
    email: person?.email ?? '',
    section: person ? codeOf(person.section) : (course.sections[0]?.code ?? null),
    role: person?.role ?? 'student',
    status: person?.status ?? 'active',
    attributes: person?.attributes ?? {},
    further: { name: '', value: '' },
  }))
  // Half typed, it is there again when this is opened anew; what was changed meanwhile begins anew.
  const about = person ? `${person.code} ${JSON.stringify(first)}` : ''
  const unsent = useUnsent(`person ${course.code} ${about}`, first)
  const { name, given, family, called, number, email, section, role, status, attributes, further } = {
    ...first,
    ...unsent.value,
  }
  // What the words of the name tell where nothing is said.
  const parts = nameParts({ name, given: '', family: '' })
  const set = (more: Partial<Draft>) => unsent.write({ ...unsent.value, ...more })
  const [freeSeats, setFreeSeats] = useState(true)
  const act = useAct()
  const { fault, busy } = act
  const stops = person?.status === 'active' && status !== 'active'
  const keep = async () => {
    const said = columns
      .map((column) => ({ name: column, value: attributes[column] ?? '' }))
      .filter(({ name, value }) => value !== (first.attributes[name] ?? ''))
    if (further.name.trim() !== '') said.push(further)
    const fields = { name, given, family, called, number, email, section, role }
    // Only what was changed goes: what somebody else changed of this person meanwhile stays.
    const { changes } = changesBetween<object>(first, { ...fields, status })
    const done = await act.do({
      work: () =>
        person
          ? call(
              changePerson,
              { course: course.code, person: person.code },
              {
                ...changes,
                ...(said.length > 0 && { attributes: said }),
                freeSeats: stops && freeSeats,
              },
            )
          : call(addPerson, { course: course.code }, { ...fields, attributes: said }),
      put,
      said: person ? `${called || name} is changed.` : `${called || name} is on the roster.`,
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <Ask
      open
      title={person ? `Change ${person.called || person.name}` : 'Add a person'}
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
      <details open={[given, family, called, number].some((one) => one !== '')}>
        <summary className="cursor-pointer text-seat">
          Parts of the name, what they are called, student number
        </summary>
        <div className="mt-2 grid grid-cols-2 gap-3 max-sm:grid-cols-1">
          <Field
            label="Given name"
            placeholder={parts.given}
            maxLength={LIMITS.personName}
            value={given}
            onChange={(event) => set({ given: event.target.value })}
            fault={fault?.field('given')}
          />
          <Field
            label="Surname"
            placeholder={parts.family}
            maxLength={LIMITS.personName}
            value={family}
            onChange={(event) => set({ family: event.target.value })}
            fault={fault?.field('family')}
          />
          <Field
            label="Called"
            maxLength={LIMITS.personName}
            value={called}
            onChange={(event) => set({ called: event.target.value })}
            fault={fault?.field('called')}
          />
          <Field
            label="Student number"
            maxLength={LIMITS.studentNumber}
            value={number}
            onChange={(event) => set({ number: event.target.value })}
            fault={fault?.field('number')}
          />
        </div>
        <p className="mt-1 text-sm text-soft">
          “Called” is for another name than the roster’s: everybody sees it. The number is for staff alone,
          and lists are in order of the surname.
        </p>
      </details>
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
      {role === 'student' && (
        <fieldset className="flex flex-col gap-2 border-t tear pt-3">
          <legend className="sr-only">What groups can be mixed by</legend>
          <p className="text-sm text-soft">
            What groups can be mixed by: a level, a programme, a language. Staff see it, students never.
          </p>
          <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
            {columns.map((column) => (
              <Field
                key={column}
                label={column}
                maxLength={LIMITS.attribute}
                value={attributes[column] ?? ''}
                onChange={({ target }) => set({ attributes: { ...attributes, [column]: target.value } })}
              />
            ))}
          </div>
          {columns.length < LIMITS.attributes && (
            <div className="grid grid-cols-2 gap-3 max-sm:grid-cols-1">
              <Field
                label="A further attribute"
                maxLength={LIMITS.attribute}
                value={further.name}
                onChange={({ target }) => set({ further: { ...further, name: target.value } })}
              />
              <Field
                label="Its value"
                maxLength={LIMITS.attribute}
                value={further.value}
                onChange={({ target }) => set({ further: { ...further, value: target.value } })}
                fault={fault?.field('attributes')}
              />
            </div>
          )}
        </fieldset>
      )}
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
