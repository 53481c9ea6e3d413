import { Dialog } from 'radix-ui'
import { type FormEvent, useId, useState } from 'react'
import { addList, changeList, type ListView } from '../../contract/lists.ts'
import { roster } from '../../contract/roster.ts'
import { LIMITS } from '../../core/limits.ts'
import { matches } from '../../core/names.ts'
import { peopleIn } from '../../core/peopleIn.ts'
import { useAnswer } from '../data/answers.ts'
import { call } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { useAct } from '../kit/Acting.tsx'
import { Button } from '../kit/Button.tsx'
import { Check } from '../kit/Check.tsx'
import { Area, Field } from '../kit/Field.tsx'
import { FormBox } from '../kit/FormBox.tsx'
import { SearchBox } from '../kit/SearchBox.tsx'
import { TableFile } from '../tables/TableFile.tsx'

interface Draft {
  title: string
  note: string
  people: string[]
}

const EMPTY: Draft = { title: '', note: '', people: [] }

/** Makes a list of people of a course, or changes one: picked, pasted or from a file. It stays with the course. */
export function ListAsk({
  course,
  list,
  onClose,
  onMade,
}: {
  course: string
  /** The list that is changed; left out, a new one is made. */
  list?: ListView
  onClose: () => void
  /** Told with the code of the list. */
  onMade: (list: string) => void
}) {
  const { data } = useAnswer(roster, { course })
  const first: Draft = list
    ? { title: list.title, note: list.note, people: [...list.people, ...list.away].map(({ code }) => code) }
    : EMPTY
  const unsent = useUnsent<Draft>(
    `list ${course} ${list ? `${list.code} ${JSON.stringify(first)}` : ''}`,
    first,
  )
  const act = useAct()
  const draft = unsent.value
  const change = (more: Partial<Draft>) => unsent.write({ ...draft, ...more })
  const students = (data?.people ?? []).filter(
    ({ role, status }) => role === 'student' && status === 'active',
  )
  const make = async (event: FormEvent) => {
    event.preventDefault()
    if (list) {
      const done = await act.do({
        work: () => call(changeList, { course, list: list.code }, draft),
        undo: () => call(changeList, { course, list: list.code }, first),
        put: () => onMade(list.code),
        said: `“${draft.title.trim()}” is kept.`,
        beside: true,
      })
      if (!done.fault) unsent.drop()
      return
    }
    const done = await act.do({ work: () => call(addList, { course }, draft), beside: true })
    if (done.fault) return
    unsent.drop()
    onMade(done.answer.added)
  }
  const fault = act.fault
  return (
    <FormBox
      title={list ? `The list “${list.title}”` : 'A list of people'}
      words="It stays with the course, for this sheet and others. Students never see that there is one."
      onClose={onClose}
      onSubmit={make}
    >
      <Field
        label="Name of the list"
        value={draft.title}
        maxLength={LIMITS.title}
        placeholder="Who meets on Mondays"
        onChange={({ target }) => change({ title: target.value })}
        fault={fault?.field('title')}
      />
      <Field
        label="Note for staff"
        value={draft.note}
        maxLength={500}
        onChange={({ target }) => change({ note: target.value })}
        fault={fault?.field('note')}
      />
      <Pasting
        known={students}
        onFound={(found) => change({ people: [...new Set([...draft.people, ...found])] })}
      />
      <Picking students={students} picked={draft.people} onPicked={(people) => change({ people })} />
      {fault && !fault.field('title') && !fault.field('note') && (
        <p role="alert" className="text-ember">
          {fault.field('people') ?? fault.message}
        </p>
      )}
      <div className="flex justify-end gap-2 border-t tear pt-4">
        <Dialog.Close asChild>
          <Button>Cancel</Button>
        </Dialog.Close>
        <Button
          type="submit"
          look="main"
          busy={act.busy}
          disabled={draft.title.trim() === '' || draft.people.length === 0}
        >
          {list
            ? 'Save the list'
            : draft.people.length === 0
              ? 'Make the list'
              : `Make the list of ${draft.people.length}`}
        </Button>
      </div>
    </FormBox>
  )
}

interface Student {
  code: string
  name: string
  /** What they are called, where that is another name; else empty. */
  called: string
  /** The student number, or empty. */
  number: string
  email: string
  section: string | null
}

/** Adds people by what is pasted, or stands in a file: addresses or names, one in each line. */
function Pasting({
  known,
  onFound,
}: {
  known: readonly Student[]
  onFound: (codes: readonly string[]) => void
}) {
  const [text, setText] = useState('')
  const [said, setSaid] = useState('')
  const { people, faults } = peopleIn(text, known)
  const take = () => {
    onFound(people)
    setSaid(`${people.length} ${people.length === 1 ? 'person is' : 'people are'} on the list from it.`)
    setText('')
  }
  return (
    <div className="flex flex-col gap-2">
      <Area
        label="Paste addresses or names, one in each line"
        rows={2}
        value={text}
        maxLength={200_000}
        onChange={({ target }) => setText(target.value)}
        className="max-h-40 [field-sizing:content]"
      />
      {faults.length > 0 && (
        <ul role="alert" className="max-h-32 list-disc overflow-auto pl-5 text-sm text-ember">
          {faults.slice(0, 20).map(({ line, found, message }) => (
            <li key={line}>
              Line {line}, “{found}”: {message}
            </li>
          ))}
          {faults.length > 20 && <li>and {faults.length - 20} lines more</li>}
        </ul>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <Button size="small" disabled={people.length === 0} onClick={take}>
          {people.length === 0 ? 'Add them' : `Add these ${people.length}`}
        </Button>
        <TableFile
          label="From a file…"
          file="A file with people"
          onText={(read) => setText(read.slice(0, 200_000))}
        />
        <output className="text-sm text-soft">{said}</output>
      </div>
    </div>
  )
}

/** Picks people from the roster. */
function Picking({
  students,
  picked,
  onPicked,
}: {
  students: readonly Student[]
  picked: readonly string[]
  onPicked: (codes: string[]) => void
}) {
  const [typed, setTyped] = useState('')
  const id = useId()
  const found = students.filter(({ called, name, number, email, section }) =>
    matches(typed, called, name, number, email, section),
  )
  const on = new Set(picked)
  return (
    <div className="flex flex-col gap-2">
      <p id={id} className="text-sm font-semibold text-soft">
        On the list: {picked.length} of {students.length}
      </p>
      <SearchBox label="Search in the roster" value={typed} onValue={setTyped} />
      <ul aria-labelledby={id} className="max-h-32 overflow-auto rounded-field border border-line px-2 py-1">
        {found.map(({ code, called, name, section }) => (
          <li key={code}>
            <Check
              checked={on.has(code)}
              onValue={(yes) => onPicked(yes ? [...picked, code] : picked.filter((one) => one !== code))}
            >
              {[called || name, section].filter(Boolean).join(', ')}
            </Check>
          </li>
        ))}
        {found.length === 0 && <li className="text-soft">Nobody on the roster is called that.</li>}
      </ul>
    </div>
  )
}
