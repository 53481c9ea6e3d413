import { X } from 'lucide-react'
import { useState } from 'react'
import { addKeeping, dropKeeping, type KeepingView, type SettleView } from '../../../contract/plans.ts'
import { sayDay } from '../../../core/zone.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { BOX } from '../../kit/Field.tsx'
import { sentTime, TimeInput } from '../../kit/TimeField.tsx'
import { PersonPick } from './PersonPick.tsx'

/** Who keeps apart or together, on every sheet of the course. Only staff see it. */
export function KeepingsCard({ view, put }: { view: SettleView; put: (view: SettleView) => void }) {
  const [adding, setAdding] = useState<'apart' | 'together' | null>(null)
  const act = useAct()
  const drop = ({ code, kind, people, note, expiresAt }: KeepingView) => {
    const until = expiresAt === null ? null : new Date(Date.parse(expiresAt) - 1).toISOString().slice(0, 10)
    const names = people.map(({ name }) => name).join(', ')
    return act.do({
      work: () => call(dropKeeping, { sheet: view.code, keeping: code }),
      undo: () =>
        call(addKeeping, { sheet: view.code }, { kind, note, until, people: people.map((one) => one.code) }),
      put,
      said: `${names}: kept ${kind} no longer.`,
    })
  }
  return (
    <Card title="Apart and together">
      <p className="text-sm text-faint">For every sheet of the course. Students never see it.</p>
      {(['apart', 'together'] as const).map((kind) => {
        const own = view.keepings.filter((keeping) => keeping.kind === kind)
        return (
          <div key={kind} className="border-b tear py-1.5 last:border-0">
            <p className="flex items-center justify-between gap-2">
              {kind === 'apart' ? 'Keep apart' : 'Keep together'}
              {view.mayEdit && (
                <Button size="small" onClick={() => setAdding(adding === kind ? null : kind)}>
                  Add<span className="sr-only"> people to keep {kind}</span>
                </Button>
              )}
            </p>
            <ul className="flex flex-col gap-1">
              {own.map((keeping) => (
                <li key={keeping.code} className="flex items-start justify-between gap-1 text-sm">
                  <span>
                    {keeping.people.map(({ name }) => name).join(' · ')}
                    <span className="text-soft">
                      {keeping.note && ` (${keeping.note})`}
                      {keeping.expiresAt !== null &&
                        (keeping.expiresAt <= view.now
                          ? ', no longer'
                          : `, until ${sayDay(new Date(Date.parse(keeping.expiresAt) - 1).toISOString(), view.course.zone)}`)}
                    </span>
                  </span>
                  {view.mayEdit && (
                    <button
                      type="button"
                      aria-label={`Remove ${keeping.people.map(({ name }) => name).join(' and ')}`}
                      onClick={() => void drop(keeping)}
                      className="grid size-6 shrink-0 place-items-center rounded hover:bg-seat-soft"
                    >
                      <X size={14} aria-hidden="true" />
                    </button>
                  )}
                </li>
              ))}
            </ul>
            {adding === kind && (
              <AddKeeping view={view} kind={kind} put={put} onClose={() => setAdding(null)} />
            )}
          </div>
        )
      })}
    </Card>
  )
}

function AddKeeping({
  view,
  kind,
  put,
  onClose,
}: {
  view: SettleView
  kind: 'apart' | 'together'
  put: (view: SettleView) => void
  onClose: () => void
}) {
  const [people, setPeople] = useState<readonly string[]>([])
  const [note, setNote] = useState('')
  const [until, setUntil] = useState('')
  const act = useAct()
  const seated = new Set(view.basis.seats.map(({ person }) => person))
  const names = new Map(view.basis.people.map(({ key, name }) => [key, name]))
  const add = async () => {
    const body = { kind, people: [...people], note, until: sentTime(until, false) }
    const { fault } = await act.do({ work: () => call(addKeeping, { sheet: view.code }, body), put })
    if (!fault) onClose()
  }
  return (
    <div className="mt-1 flex flex-col gap-1.5 rounded-field bg-canvas p-2 text-sm">
      <PersonPick
        label="Type a name"
        people={view.basis.people
          .filter(({ key }) => !people.includes(key))
          .map((person) => ({ ...person, seated: seated.has(person.key) }))}
        onPick={(person) => setPeople([...people, person])}
      />
      {people.length > 0 && (
        <p>
          {people.map((person, i) => (
            <button
              key={person}
              type="button"
              className="mr-1 underline underline-offset-2"
              onClick={() => setPeople(people.filter((one) => one !== person))}
            >
              {names.get(person)}
              {i < people.length - 1 && ','}
            </button>
          ))}
        </p>
      )}
      <input
        aria-label="Why, for the staff"
        placeholder="Why, for the staff"
        value={note}
        maxLength={120}
        onChange={({ target }) => setNote(target.value)}
        className={`${BOX} min-h-8`}
      />
      <div className="flex items-center justify-between gap-2 text-soft">
        Until
        <TimeInput time={false} aria-label="Until" value={until} onValue={setUntil} className="min-h-8" />
      </div>
      <div className="flex justify-end gap-1.5">
        <Button size="small" onClick={onClose}>
          Cancel
        </Button>
        <Button size="small" look="main" disabled={people.length < 2} onClick={() => void add()}>
          {kind === 'apart' ? 'Keep them apart' : 'Keep them together'}
        </Button>
      </div>
    </div>
  )
}
