import { type ReactNode, useState } from 'react'
import { type GroupsView, setExtras } from '../../../contract/groups.ts'
import type { Extra, GroupExtras } from '../../../core/extras.ts'
import { MIB } from '../../../core/files.ts'
import { call } from '../../data/call.ts'
import { draftWords } from '../../data/draft.ts'
import { useDraft } from '../../data/useDraft.ts'
import { EXTRA_WORDS } from '../../group/extraWords.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Check } from '../../kit/Check.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { Field } from '../../kit/Field.tsx'

const LINES: { extra: Extra; why: string }[] = [
  { extra: 'messages', why: 'write to everybody of the group at once, by mail' },
  { extra: 'talk', why: 'discuss on the page, subject by subject' },
  { extra: 'files', why: 'keep what they work on in one place, with versions' },
  { extra: 'calendar', why: 'set meetings, find when they could meet, and have both in their own calendars' },
  { extra: 'meeting', why: 'one link under which the group always meets' },
  { extra: 'name', why: 'be more than the title of a topic' },
]

/** What the groups of a sheet get. Each is kept at once; what is turned off is hidden and kept. */
export function ExtrasCard({ view, put }: { view: GroupsView; put: (view: GroupsView) => void }) {
  const { kept } = view
  // What was chosen shows at once, and goes back where the server refuses it.
  const [chosen, setChosen] = useState<Partial<GroupExtras>>({})
  const extras = { ...view.extras, ...chosen }
  const act = useAct()
  const set = async (changes: Partial<GroupExtras>) => {
    const names = Object.keys(changes) as (keyof GroupExtras)[]
    const before = Object.fromEntries(names.map((name) => [name, view.extras[name]]))
    setChosen((known) => ({ ...known, ...changes }))
    await act.do({
      work: () => call(setExtras, { sheet: view.code }, changes),
      undo: () => call(setExtras, { sheet: view.code }, before),
      put,
      said: 'Saved.',
      line: 'extras',
    })
    setChosen((known) => Object.fromEntries(Object.entries(known).filter(([key]) => !(key in changes))))
  }
  const size = (name: 'fileBytes' | 'groupBytes') => ({
    of: `extras ${view.code} ${name}`,
    bytes: view.extras[name],
    disabled: !view.mayEdit,
    onBytes: async (bytes: number, was: number) => {
      const done = await act.do({
        work: () => call(setExtras, { sheet: view.code }, { [name]: bytes }),
        undo: () => call(setExtras, { sheet: view.code }, { [name]: was }),
        put,
        beside: true,
      })
      if (done.fault) throw done.fault
      return done.answer.extras[name]
    },
  })
  const amounts: Partial<Record<Extra, number>> = {
    talk: kept.talk,
    files: kept.files,
    messages: kept.messages,
  }
  return (
    <section aria-labelledby="extras" className="rounded-card border border-line bg-surface">
      <div className="px-4 py-3">
        <h2 id="extras" className="text-lg">
          What groups get
        </h2>
        <p className="text-soft">Every group has its page with members, tasks and what is due.</p>
      </div>
      <ul>
        {LINES.map(({ extra, why }) => (
          <li key={extra} className="border-t border-line px-4 py-2">
            <Check
              checked={extras[extra]}
              disabled={!view.mayEdit}
              onValue={(on) => void set({ [extra]: on })}
            >
              <span>
                <span className="font-semibold">{EXTRA_WORDS[extra]}</span>{' '}
                <span className="text-soft">to {why}</span>
                {!extras[extra] && (amounts[extra] ?? 0) > 0 && (
                  <span className="block text-sm text-sun-ink">{amounts[extra]} kept, and hidden</span>
                )}
              </span>
            </Check>
            {extra === 'talk' && extras.talk && (
              <Option
                label="Subjects are opened by"
                value={extras.starts}
                disabled={!view.mayEdit}
                onValue={(starts) => void set({ starts })}
                choices={{
                  everybody: 'everybody',
                  threads: 'instructors and tutors; everybody opens threads within',
                  staff: 'instructors and tutors; members reply',
                }}
              />
            )}
            {extra === 'meeting' && extras.meeting && (
              <Option
                label="The link is set by"
                value={extras.meetingBy}
                disabled={!view.mayEdit}
                onValue={(meetingBy) => void set({ meetingBy })}
                choices={{ staff: 'instructors and tutors', convener: 'them, and the group’s convener' }}
              />
            )}
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-2 gap-3 border-t border-line px-4 py-3">
        <Mebibytes label="One file, MiB" path="fileBytes" {...size('fileBytes')} />
        <Mebibytes label="A group in all, MiB" path="groupBytes" {...size('groupBytes')} />
        <p className="col-span-2 text-sm text-faint">The limits hold for hand-ins too, for each task anew.</p>
      </div>
    </section>
  )
}

function Option<Value extends string>({
  label,
  value,
  choices,
  disabled,
  onValue,
}: {
  label: string
  value: Value
  choices: Record<Value, string>
  disabled: boolean
  onValue: (value: Value) => void
}): ReactNode {
  return (
    <label className="mb-1 flex flex-wrap items-center gap-x-2 pl-8 text-sm text-soft">
      {label}
      <Choice
        value={value}
        disabled={disabled}
        onValue={(value) => onValue(value as Value)}
        className="max-w-max"
      >
        {(Object.entries(choices) as [Value, string][]).map(([one, said]) => (
          <option key={one} value={one}>
            {said}
          </option>
        ))}
      </Choice>
    </label>
  )
}

/** Milliseconds after the last key before a number is kept. */
const PAUSE = 600

/** A number of mebibytes that keeps itself. */
function Mebibytes({
  label,
  path,
  of,
  bytes,
  disabled,
  onBytes,
}: {
  label: string
  path: string
  /** Names it among what is written. */
  of: string
  bytes: number
  disabled: boolean
  onBytes: (bytes: number, was: number) => Promise<number>
}) {
  const known = (n: number) => ({ value: String(n / MIB), version: n, at: 0 })
  const draft = useDraft(
    of,
    {
      pause: PAUSE,
      ready: (typed) => typed.trim() !== '' && Number.isFinite(Number(typed)),
      send: async (typed, was) => known(await onBytes(Math.round(Number(typed) * MIB), Number(was))),
    },
    known(bytes),
  )
  return (
    <Field
      label={label}
      inputMode="decimal"
      value={draft.value}
      disabled={disabled}
      onChange={({ target }) => draft.write(target.value)}
      onBlur={() => void draft.flush()}
      fault={
        draft.state === 'unfinished'
          ? 'Write a number, for example 20.'
          : draft.state === 'retrying' || draft.state === 'refused'
            ? (draft.fault?.field(path) ?? draftWords(draft))
            : undefined
      }
    />
  )
}
