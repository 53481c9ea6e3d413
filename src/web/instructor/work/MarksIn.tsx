import { Dialog } from 'radix-ui'
import { useRef, useState } from 'react'
import { importMarks, type MarksPreview, previewMarks } from '../../../contract/marks.ts'
import type { WorkView } from '../../../contract/tasks.ts'
import { call, faultOf } from '../../data/call.ts'
import { readText } from '../../data/readText.ts'
import { useAct } from '../../kit/Acting.tsx'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { ScrollBox } from '../../kit/ScrollBox.tsx'

/** Lines of a list that are shown at once. */
const MOST_SHOWN = 200

/** Reads marks from a file: what it would change is looked at first. */
export function MarksIn({ view, put }: { view: WorkView; put: (view: WorkView) => void }) {
  const file = useRef<HTMLInputElement>(null)
  const [csv, setCsv] = useState('')
  const [seen, setSeen] = useState<MarksPreview | null>(null)
  const [fault, setFault] = useState('')
  const act = useAct()
  const { busy } = act
  const at = { sheet: view.code }
  const look = async (text: string) => {
    setCsv(text)
    setSeen(await call(previewMarks, at, { csv: text }))
  }
  const read = async (chosen: File | undefined) => {
    if (!chosen) return
    setFault('')
    try {
      await look(await readText(chosen))
    } catch (error) {
      setFault(error instanceof Error && error.name !== 'Error' ? error.message : faultOf(error).message)
    }
  }
  const take = async (preview: MarksPreview) => {
    const { fingerprint, faults, changes } = preview
    const done = await act.do({
      work: () => call(importMarks, at, { csv, fingerprint, skipFaults: faults.length > 0 }),
      put,
      said: changes.length === 1 ? '1 mark is changed.' : `${changes.length} marks are changed.`,
    })
    if (!done.fault) setSeen(null)
    else if (done.fault.code === 'marked-meanwhile') await look(csv).catch(() => {})
  }
  return (
    <span className="relative">
      <input
        ref={file}
        type="file"
        accept=".csv,text/csv,text/plain"
        className="sr-only"
        tabIndex={-1}
        aria-label="CSV of marks"
        onChange={({ target }) => {
          void read(target.files?.[0])
          target.value = ''
        }}
      />
      <Button size="small" onClick={() => file.current?.click()}>
        Import marks
      </Button>
      {fault && (
        <span role="alert" className="ml-2 text-ember">
          {fault}
        </span>
      )}
      {seen && (
        <Dialog.Root open onOpenChange={(open) => !open && setSeen(null)}>
          <DialogBox title="What the file would change" width="medium">
            <Preview seen={seen} />
            {seen.changes.length > 0 && (
              <div>
                <Button look="main" busy={busy} onClick={() => void take(seen)}>
                  Change {seen.changes.length === 1 ? '1 mark' : `${seen.changes.length} marks`}
                  {seen.faults.length > 0 && ', leaving the wrong lines out'}
                </Button>
              </div>
            )}
          </DialogBox>
        </Dialog.Root>
      )}
    </span>
  )
}

function Preview({ seen }: { seen: MarksPreview }) {
  const { changes, faults, of } = seen
  const out = changes.filter((one) => one.out).length
  return (
    <>
      <p className="text-soft">
        A table of {of}.{' '}
        {changes.length === 0
          ? faults.length === 0
            ? 'All its marks stand already, so nothing would change.'
            : 'Nothing in it can be taken.'
          : 'What it does not mention stays as it is.'}
        {out > 0 && ` ${out} of these marks are out: students see the change at once.`}
      </p>
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
              {changes.slice(0, MOST_SHOWN).map(({ task, owner, member, from, to }) => (
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
                  </td>
                  <td className="py-1 pr-3 text-right">{from ?? 'open'}</td>
                  <td className="py-1 text-right font-semibold">{to ?? 'as the group'}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {changes.length > MOST_SHOWN && (
            <p className="text-sm text-soft">and {changes.length - MOST_SHOWN} more</p>
          )}
        </ScrollBox>
      )}
    </>
  )
}
