import { Dialog } from 'radix-ui'
import { lazy, Suspense } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { Button } from '../../kit/Button.tsx'
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
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(48rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-card border border-line bg-surface p-5 shadow-xl"
        >
          <Dialog.Title className="mb-3 text-lg">How the sheet fills</Dialog.Title>
          <Suspense fallback={<Loading what="the curve" />}>
            <Pace view={view} />
          </Suspense>
          <div className="mt-3 flex justify-end border-t tear pt-3">
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
