import { Dialog } from 'radix-ui'
import { useId, useState } from 'react'
import { copied } from './Addresses.tsx'
import { Button } from './Button.tsx'
import { Choice } from './Choice.tsx'
import { Area } from './Field.tsx'
import { useOpener } from './useOpener.ts'

/** How addresses can be set off from each other, for whatever takes them. */
const BETWEEN = { lines: '\n', commas: ', ', semicolons: '; ' }

/** Addresses of several people as a plain list, to be copied: one in each line, or as mail programs take them. */
export function AddressesAsk({
  of,
  emails,
  onClose,
}: {
  /** Whose they are: “those without a group”. */
  of: string
  emails: readonly string[]
  onClose: () => void
}) {
  const opener = useOpener()
  const id = useId()
  const [between, setBetween] = useState<keyof typeof BETWEEN>('lines')
  const text = emails.join(BETWEEN[between])
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          {...opener}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-card border border-line bg-surface p-5 shadow-xl"
        >
          <Dialog.Title className="text-lg">Addresses of {of}</Dialog.Title>
          <Dialog.Description className="text-soft">
            {emails.length === 0
              ? 'There is nobody.'
              : `${emails.length === 1 ? 'One address' : `${emails.length} addresses`}, in the order of the class list.`}
          </Dialog.Description>
          <Area
            label="Addresses"
            readOnly
            rows={8}
            value={text}
            onFocus={({ target }) => target.select()}
            className="font-mono text-sm"
          />
          <div className="flex items-center gap-2">
            <label htmlFor={id} className="text-soft">
              Set off by
            </label>
            <Choice id={id} value={between} onValue={(value) => setBetween(value as keyof typeof BETWEEN)}>
              <option value="lines">lines</option>
              <option value="commas">commas</option>
              <option value="semicolons">semicolons</option>
            </Choice>
          </div>
          <div className="flex flex-wrap justify-end gap-2 border-t tear pt-4">
            <Dialog.Close asChild>
              <Button size="touch">Close</Button>
            </Dialog.Close>
            <Button
              size="touch"
              look="main"
              disabled={emails.length === 0}
              onClick={() =>
                void copied(text, `${emails.length} copied.`, 'They are selected: copy them by hand.')
              }
            >
              Copy addresses
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
