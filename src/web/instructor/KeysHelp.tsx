import { Dialog } from 'radix-ui'
import { useState } from 'react'
import { Button, Key } from '../kit/Button.tsx'
import { useKey } from './keys.ts'

const KEYS: { keys: string[]; does: string }[] = [
  { keys: ['Ctrl K'], does: 'find a person, topic, sheet or roster' },
  { keys: ['G C', 'G R', 'G S', 'G L'], does: 'Compose, Run, Settle, Ledger' },
  { keys: ['T'], does: 'a new topic' },
  { keys: ['↑', '↓', 'Enter'], does: 'through a column of the topics' },
  { keys: ['Alt ↑', 'Alt ↓'], does: 'move a topic' },
  { keys: ['Ctrl Z', 'Ctrl Shift Z'], does: 'undo, redo in Compose and Run' },
  { keys: ['Space', 'Shift', 'Ctrl A'], does: 'pick people: one, up to here, all' },
  { keys: ['P', 'X'], does: 'seat the picked, swap two' },
  { keys: ['Y', 'N'], does: 'grant, decline the marked request' },
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
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[85vh] w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-card border border-line bg-surface p-5 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-lg">Keys</Dialog.Title>
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
          <div className="mt-4 flex justify-end border-t tear pt-4">
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
