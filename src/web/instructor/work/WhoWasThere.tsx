import { Dialog } from 'radix-ui'
import { type FormEvent, useState } from 'react'
import { type DeskPile, type DeskView, setThere } from '../../../contract/marks.ts'
import { work } from '../../../contract/tasks.ts'
import { useAnswer } from '../../data/answers.ts'
import { call } from '../../data/call.ts'
import { useUnsent } from '../../data/useDraft.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Field } from '../../kit/Field.tsx'
import { FormBox } from '../../kit/FormBox.tsx'
import { Picks } from '../../kit/Picks.tsx'

/** Whom a mark is for that was given without a hand-in, and the way to correct it. */
export function WhoWasThere({
  pile,
  view,
  put,
}: {
  pile: DeskPile
  view: DeskView
  put: (view: DeskView) => void
}) {
  const [asking, setAsking] = useState(false)
  const kept = pile.countsFor === 'was-there'
  return (
    <section aria-labelledby="was-there" className="mt-6 border-t tear pt-4">
      <h2 id="was-there" className="text-lg">
        Who was there
      </h2>
      <p className="text-soft">
        {kept
          ? 'The mark is for them, whoever sits in the group later.'
          : 'The mark will be for whoever sits here when it is first given.'}
      </p>
      <ul className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[1.0625rem]">
        {pile.people.map(({ code, name }) => (
          <li key={code}>{name}</li>
        ))}
      </ul>
      {pile.mayMark && (
        <div className="mt-3">
          <Button size="touch" onClick={() => setAsking(true)}>
            Correct who was there…
          </Button>
        </div>
      )}
      {asking && <ThereAsk pile={pile} view={view} put={put} onClose={() => setAsking(false)} />}
    </section>
  )
}

interface Draft {
  people: readonly string[]
  reason: string
}

/** Ticks who was there, with the reason, which the ledger keeps. */
function ThereAsk({
  pile,
  view,
  put,
  onClose,
}: {
  pile: DeskPile
  view: DeskView
  put: (view: DeskView) => void
  onClose: () => void
}) {
  const before = pile.people.map(({ code }) => code)
  const unsent = useUnsent<Draft>(`there ${view.task.code} ${pile.owner} ${before.join(' ')}`, {
    people: before,
    reason: '',
  })
  const { people, reason } = unsent.value
  const everybody = useAnswer(work, { sheet: view.code }, { revalidateOnFocus: false }).data?.people ?? []
  const known = new Set(everybody.map(({ code }) => code))
  // Whoever was there and has left the course since stays to be ticked.
  const all = [...pile.people.filter(({ code }) => !known.has(code)), ...everybody]
  const here = new Set(before)
  const act = useAct()
  const params = { sheet: view.code, task: view.task.code }
  const save = async (event: FormEvent) => {
    event.preventDefault()
    const done = await act.do({
      work: () => call(setThere, params, { owner: pile.owner, people: [...people], reason }),
      undo: () =>
        call(setThere, params, { owner: pile.owner, people: before, reason: `Taken back: ${reason}` }),
      put,
      said: `Kept who was there of ${pile.title}.`,
      beside: true,
    })
    if (done.fault) return
    unsent.drop()
    onClose()
  }
  return (
    <FormBox
      title={`Who was there of ${pile.title}?`}
      words="The mark is for those who are ticked. The ledger keeps the reason."
      onClose={onClose}
      onSubmit={save}
    >
      <Picks
        label="Students"
        all={[...all.filter(({ code }) => here.has(code)), ...all.filter(({ code }) => !here.has(code))].map(
          ({ code, name }) => ({ code, name }),
        )}
        picked={new Set(people)}
        onPicked={(picked) => unsent.write({ people: [...picked], reason })}
        nobody="Nobody is called that."
      />
      <Field
        label="Reason"
        maxLength={500}
        placeholder="Was ill, and spoke with another group"
        value={reason}
        onChange={({ target }) => unsent.write({ people, reason: target.value })}
        fault={act.fault?.field('reason')}
      />
      {act.fault && !act.fault.field('reason') && (
        <p role="alert" className="text-ember">
          {act.fault.message}
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
          disabled={people.length === 0 || reason.trim() === ''}
        >
          Save who was there
        </Button>
      </div>
    </FormBox>
  )
}
