import { type ReactNode, useState } from 'react'
import { toast } from 'sonner'
import { type GroupsView, setExtras } from '../../../contract/groups.ts'
import type { Extra, GroupExtras } from '../../../core/extras.ts'
import { MIB } from '../../../core/files.ts'
import { call, faultOf } from '../../data/call.ts'
import { BOX, Field } from '../../kit/Field.tsx'

const LINES: { extra: Extra; title: string; why: string }[] = [
  { extra: 'messages', title: 'Messages', why: 'write to everybody of the group at once, by mail' },
  { extra: 'talk', title: 'Talk', why: 'discuss on the page, subject by subject' },
  { extra: 'files', title: 'Files', why: 'keep what they work on in one place, with versions' },
  { extra: 'meeting', title: 'Meeting link', why: 'one link under which the group always meets' },
  { extra: 'name', title: 'Name and emblem', why: 'be more than the title of a topic' },
]

/** What the groups of a sheet get. Each is kept at once; what is turned off is hidden and kept. */
export function ExtrasCard({ view, put }: { view: GroupsView; put: (view: GroupsView) => void }) {
  const { kept } = view
  // What was chosen shows at once, and goes back where the server refuses it.
  const [chosen, setChosen] = useState<Partial<GroupExtras>>({})
  const extras = { ...view.extras, ...chosen }
  const [fault, setFault] = useState<{ path: string; message: string } | null>(null)
  const set = async (changes: Partial<GroupExtras>) => {
    const before = view.extras
    setChosen((known) => ({ ...known, ...changes }))
    try {
      put(await call(setExtras, { sheet: view.code }, changes))
      setFault(null)
      const undo = Object.fromEntries(
        Object.keys(changes).map((key) => [key, before[key as keyof GroupExtras]]),
      ) as Partial<GroupExtras>
      toast('Kept.', {
        action: {
          label: 'Undo',
          onClick: () =>
            void call(setExtras, { sheet: view.code }, undo)
              .then(put)
              .catch((error: unknown) => toast.error(faultOf(error).message)),
        },
      })
    } catch (error) {
      const problem = faultOf(error)
      const field = problem.problem.errors?.[0]
      if (field) setFault(field)
      else toast.error(problem.message)
    } finally {
      setChosen((known) => Object.fromEntries(Object.entries(known).filter(([key]) => !(key in changes))))
    }
  }
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
        {LINES.map(({ extra, title, why }) => (
          <li key={extra} className="border-t border-line px-4 py-2">
            <label className="flex min-h-9 items-center gap-3">
              <input
                type="checkbox"
                className="size-5 shrink-0 accent-seat"
                checked={extras[extra]}
                disabled={!view.mayEdit}
                onChange={({ target }) => void set({ [extra]: target.checked })}
              />
              <span>
                <span className="font-semibold">{title}</span> <span className="text-soft">to {why}</span>
                {!extras[extra] && (amounts[extra] ?? 0) > 0 && (
                  <span className="block text-sm text-sun-ink">{amounts[extra]} kept, and hidden</span>
                )}
              </span>
            </label>
            {extra === 'talk' && extras.talk && (
              <Choice
                label="Subjects are opened by"
                value={extras.starts}
                disabled={!view.mayEdit}
                onValue={(starts) => void set({ starts })}
                choices={{ everybody: 'everybody', staff: 'instructors and tutors; members reply' }}
              />
            )}
            {extra === 'meeting' && extras.meeting && (
              <Choice
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
        <Mebibytes
          label="One file, MiB"
          bytes={extras.fileBytes}
          disabled={!view.mayEdit}
          onBytes={(fileBytes) => void set({ fileBytes })}
          fault={fault?.path === 'fileBytes' ? fault.message : undefined}
        />
        <Mebibytes
          label="A group in all, MiB"
          bytes={extras.groupBytes}
          disabled={!view.mayEdit}
          onBytes={(groupBytes) => void set({ groupBytes })}
          fault={fault?.path === 'groupBytes' ? fault.message : undefined}
        />
        <p className="col-span-2 text-sm text-faint">The limits hold for hand-ins too, for each task anew.</p>
      </div>
    </section>
  )
}

function Choice<Value extends string>({
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
      <select
        value={value}
        disabled={disabled}
        onChange={({ target }) => onValue(target.value as Value)}
        className={`${BOX} min-h-8 max-w-max py-0.5`}
      >
        {(Object.entries(choices) as [Value, string][]).map(([one, said]) => (
          <option key={one} value={one}>
            {said}
          </option>
        ))}
      </select>
    </label>
  )
}

/** A number of mebibytes, kept when the field is left. */
function Mebibytes({
  label,
  bytes,
  disabled,
  onBytes,
  fault,
}: {
  label: string
  bytes: number
  disabled: boolean
  onBytes: (bytes: number) => void
  fault: string | undefined
}) {
  const [typed, setTyped] = useState<string | null>(null)
  const keep = () => {
    if (typed === null) return
    const next = Math.round(Number(typed) * MIB)
    if (typed.trim() !== '' && Number.isFinite(next) && next !== bytes) onBytes(next)
    setTyped(null)
  }
  return (
    <Field
      label={label}
      inputMode="numeric"
      value={typed ?? String(bytes / MIB)}
      disabled={disabled}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={keep}
      onKeyDown={({ key }) => key === 'Enter' && keep()}
      fault={fault}
    />
  )
}
