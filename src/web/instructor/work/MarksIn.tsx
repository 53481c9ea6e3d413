import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { importMarks, type MarksPreview, previewMarks } from '../../../contract/marks.ts'
import type { WorkView } from '../../../contract/tasks.ts'
import type { Scale } from '../../../core/formats/marksCsv.ts'
import { call, faultOf } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { Choice } from '../../kit/Choice.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { ScrollBox } from '../../kit/ScrollBox.tsx'
import { TableFile } from '../../tables/TableFile.tsx'

/** Lines of a list that are shown at once. */
const MOST_SHOWN = 200

/** Reads marks from a file: what it would change is looked at first. */
export function MarksIn({ view, put }: { view: WorkView; put: (view: WorkView) => void }) {
  const [csv, setCsv] = useState('')
  const [seen, setSeen] = useState<MarksPreview | null>(null)
  const [fault, setFault] = useState('')
  const act = useAct()
  const { busy } = act
  const at = { sheet: view.code }
  /** What is done with points of another scale, where it was said. */
  const [scale, setScale] = useState<Scale | undefined>(undefined)
  const look = async (text: string, said?: Scale) => {
    setCsv(text)
    setScale(said)
    setSeen(await call(previewMarks, at, { csv: text, scale: said }))
  }
  const read = async (text: string) => {
    setFault('')
    try {
      await look(text)
    } catch (error) {
      setFault(error instanceof Error && error.name !== 'Error' ? error.message : faultOf(error).message)
    }
  }
  const take = async (preview: MarksPreview) => {
    const { fingerprint, faults } = preview
    const done = await act.do({
      work: () => call(importMarks, at, { csv, scale, fingerprint, skipFaults: faults.length > 0 }),
      put,
      said: `Changed: ${whatChanges(preview)}.`,
    })
    if (!done.fault) setSeen(null)
    else if (done.fault.code === 'marked-meanwhile') await look(csv, scale).catch(() => {})
  }
  return (
    <div className="relative">
      <TableFile label="Import marks" file="Table of marks" onText={(text) => void read(text)} />
      {fault && (
        <span role="alert" className="ml-2 text-ember">
          {fault}
        </span>
      )}
      {seen && (
        <Dialog.Root open onOpenChange={(open) => !open && setSeen(null)}>
          <DialogBox title="What the file would change" width="medium">
            <Preview seen={seen} />
            {seen.scales.length > 0 && (
              <label className="flex flex-wrap items-center gap-2 rounded-field bg-sun-soft px-3 py-1.5">
                <span>
                  {seen.scales
                    .map(
                      ({ title, said, most }) => `${title} is of ${said} in the file and brings ${most} here`,
                    )
                    .join('; ')}
                  . Its points
                </span>
                <Choice
                  value={scale ?? ''}
                  onValue={(value) =>
                    void look(csv, value === '' ? undefined : (value as Scale)).catch((error: unknown) =>
                      setFault(faultOf(error).message),
                    )
                  }
                >
                  <option value="">are left out</option>
                  <option value="convert">are converted, to halves</option>
                  <option value="as-is">are taken as they stand</option>
                </Choice>
              </label>
            )}
            {seen.changes.length + seen.feedback.length > 0 && (
              <div>
                <Button look="main" busy={busy} onClick={() => void take(seen)}>
                  Change {whatChanges(seen)}
                  {seen.faults.length > 0 && ', leaving the wrong lines out'}
                </Button>
              </div>
            )}
          </DialogBox>
        </Dialog.Root>
      )}
    </div>
  )
}

/** How many marks and how much feedback a file changes, in words. */
function whatChanges({ changes, feedback }: MarksPreview): string {
  const marks = changes.length === 1 ? '1 mark' : `${changes.length} marks`
  const texts = `the feedback of ${feedback.length}`
  if (feedback.length === 0) return marks
  return changes.length === 0 ? texts : `${marks} and ${texts}`
}

function Preview({ seen }: { seen: MarksPreview }) {
  const { changes, feedback, faults, notes, of } = seen
  const out = [...changes, ...feedback].filter((one) => one.out).length
  return (
    <>
      <p className="text-soft">
        A table of {of}.{' '}
        {changes.length + feedback.length === 0
          ? faults.length === 0
            ? 'All its marks stand already, so nothing would change.'
            : 'Nothing in it can be taken.'
          : 'What it does not mention stays as it is.'}
        {out > 0 && ` ${out} of these are out: students see the change at once.`}
      </p>
      {notes.map((note) => (
        <p key={note} className="text-soft">
          {note}
        </p>
      ))}
      {faults.length > 0 && (
        <div role="alert">
          <p className="font-semibold text-ember">
            {faults.length === 1 ? '1 line is wrong' : `${faults.length} things are wrong`}
          </p>
          <ScrollBox label="What is wrong" className="max-h-40">
            <ul className="list-disc pl-5 text-sm">
              {faults.slice(0, MOST_SHOWN).map(({ line, field, found, message }) => (
                <li key={`${line} ${field} ${message}`}>
                  Line {line}
                  {field !== 'line' && `, ${field}`}
                  {found && `, “${found}”`}: {message}
                </li>
              ))}
            </ul>
          </ScrollBox>
        </div>
      )}
      {changes.length > 0 && (
        <ScrollBox label="Changes" className="max-h-72">
          <table className="figures w-full text-left text-sm">
            <thead className="sticky top-0 bg-surface text-soft">
              <tr>
                <th className="py-1 pr-3 font-semibold">Task</th>
                <th className="py-1 pr-3 font-semibold">For</th>
                <th className="py-1 pr-3 text-right font-semibold">Now</th>
                <th className="py-1 text-right font-semibold">Then</th>
              </tr>
            </thead>
            <tbody>
              {changes.slice(0, MOST_SHOWN).map(({ task, owner, member, from, to, placed, again }) => (
                <tr key={`${task} ${owner} ${member}`} className="border-t border-line">
                  <td className="py-1 pr-3">{task}</td>
                  <td className="py-1 pr-3">
                    {member ? (
                      <>
                        {member} <span className="text-soft">of {owner}, set apart</span>
                      </>
                    ) : (
                      owner
                    )}
                    {placed.length > 0 && (
                      <p className="text-soft">
                        {placed
                          .map((row) => `${row.title}: ${row.from ?? 'open'} to ${row.to ?? 'open'}`)
                          .join(', ')}
                      </p>
                    )}
                  </td>
                  <td className="py-1 pr-3 text-right">{from ?? 'open'}</td>
                  <td className="py-1 text-right font-semibold">{again ? 'as the group' : (to ?? 'open')}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {changes.length > MOST_SHOWN && (
            <p className="text-sm text-soft">and {changes.length - MOST_SHOWN} more</p>
          )}
        </ScrollBox>
      )}
      {feedback.length > 0 && (
        <ScrollBox label="Feedback" className="max-h-56">
          <table className="w-full text-left text-sm">
            <thead className="sticky top-0 bg-surface text-soft">
              <tr>
                <th className="py-1 pr-3 font-semibold">Task</th>
                <th className="py-1 pr-3 font-semibold">For</th>
                <th className="py-1 font-semibold">Feedback then</th>
              </tr>
            </thead>
            <tbody>
              {feedback.slice(0, MOST_SHOWN).map(({ task, owner, member, to }) => (
                <tr key={`${task} ${owner} ${member}`} className="border-t border-line align-top">
                  <td className="py-1 pr-3">{task}</td>
                  <td className="py-1 pr-3">{member ? `${member} of ${owner}` : owner}</td>
                  <td className="py-1 wrap-anywhere">{to.length > 200 ? `${to.slice(0, 199)}…` : to}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {feedback.length > MOST_SHOWN && (
            <p className="text-sm text-soft">and {feedback.length - MOST_SHOWN} more</p>
          )}
        </ScrollBox>
      )}
    </>
  )
}
