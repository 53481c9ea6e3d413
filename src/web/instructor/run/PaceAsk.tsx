import { Dialog } from 'radix-ui'
import type { RunView } from '../../../contract/seats.ts'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { part } from '../../kit/part.tsx'
import { Loading } from '../../kit/Waiting.tsx'

// The charts are a chunk of their own, fetched when they are wanted.
const Pace = part(async () => (await import('./Pace.tsx')).Pace, <Loading what="the curve" />)

/** Shows the curve of a sheet. */
export function PaceAsk({ view }: { view: RunView }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button size="small">How it fills</Button>
      </Dialog.Trigger>
      <DialogBox title="How the sheet fills" width="medium">
        <Pace view={view} />
      </DialogBox>
    </Dialog.Root>
  )
}
