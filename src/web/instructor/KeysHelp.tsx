import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { Key } from '../kit/Button.tsx'
import { DialogBox } from '../kit/DialogBox.tsx'
import { useKey } from '../kit/keys.ts'

const KEYS: { keys: string[]; does: string }[] = [
  { keys: ['Ctrl K'], does: 'find a person, topic, sheet or roster' },
  { keys: ['G C', 'G R', 'G S', 'G W', 'G L'], does: 'Compose, Run, Settle, Work, Ledger' },
  { keys: ['T'], does: 'a new topic' },
  { keys: ['↑', '↓', 'Enter'], does: 'through a column of the topics' },
  { keys: ['Alt ↑', 'Alt ↓'], does: 'move a topic' },
  { keys: ['Ctrl Z', 'Ctrl Shift Z'], does: 'undo, redo in Compose and Run' },
  { keys: ['Space', 'Shift', 'Ctrl A'], does: 'pick people: one, up to here, all' },
  { keys: ['P', 'X'], does: 'seat the picked, swap two' },
  { keys: ['Y', 'N'], does: 'grant, decline the marked request' },
  { keys: ['J', 'K'], does: 'the next work on the desk, and the one before' },
  { keys: ['0–9', '← →', 'Enter'], does: 'place on a line, by half a point, next to mark' },
  { keys: ['← →', 'Shift', 'R'], does: 'in a text on the desk: through its sentences, more of them, remark' },
  { keys: ['Ctrl Enter'], does: 'save a remark' },
  { keys: ['/'], does: 'search in a list' },
  { keys: ['Esc'], does: 'one step back' },
  { keys: ['?'], does: 'these keys' },
]

/** The keys of a sheet's pages, shown when ? is pressed. */
export function KeysHelp() {
  const [open, setOpen] = useState(false)
  useKey('?', () => setOpen(true))
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <DialogBox title="Keys">
        <ul className="flex flex-col gap-1.5">
          {KEYS.map(({ keys, does }) => (
            <li key={does} className="flex items-center justify-between gap-3">
              {does}
              <span className="flex gap-1">
                {keys.map((key) => (
                  <Key key={key}>{key}</Key>
                ))}
              </span>
            </li>
          ))}
        </ul>
      </DialogBox>
    </Dialog.Root>
  )
}
