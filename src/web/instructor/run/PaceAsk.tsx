import { Dialog } from 'radix-ui'
import { lazy, Suspense } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { Button } from '../../kit/Button.tsx'
import { DialogBox } from '../../kit/DialogBox.tsx'
import { Loading } from '../../kit/Waiting.tsx'

// The charts are a chunk of their own, fetched when they are wanted.
const Pace = lazy(async () => ({ default: (await import('./Pace.tsx')).Pace }))

/** Shows the curve of a sheet. */
export function PaceAsk({ view }: { view: RunView }) {
  return (
    <Dialog.Root>
      <Dialog.Trigger asChild>
        <Button size="small">How it fills</Button>
      </Dialog.Trigger>
      <DialogBox title="How the sheet fills" width="medium">
        <Suspense fallback={<Loading what="the curve" />}>
          <Pace view={view} />
        </Suspense>
      </DialogBox>
    </Dialog.Root>
  )
}
