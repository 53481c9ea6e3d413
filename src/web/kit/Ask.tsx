import { AlertDialog } from 'radix-ui'
import type { ReactNode } from 'react'
import { Button } from './Button.tsx'
import { useOpener } from './useOpener.ts'

/** Asks once before something is done. The button that does it says what happens. */
export function Ask({
  open,
  title,
  children,
  yes,
  no = 'Cancel',
  busy = false,
  ready = true,
  onYes,
  onNo,
}: {
  open: boolean
  title: string
  children: ReactNode
  yes: string
  no?: string
  busy?: boolean
  /** False while something has to be chosen first. */
  ready?: boolean
  onYes: () => void
  onNo: () => void
}) {
  const opener = useOpener()
  return (
    <AlertDialog.Root open={open} onOpenChange={(next) => !next && onNo()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <AlertDialog.Content
          {...opener}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[85vh] w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-card border border-line bg-surface p-5 shadow-xl"
        >
          <AlertDialog.Title className="text-lg">{title}</AlertDialog.Title>
          <AlertDialog.Description asChild>
            <div className="flex flex-col gap-2 text-soft">{children}</div>
          </AlertDialog.Description>
          <div className="mt-1 flex flex-wrap justify-end gap-2 border-t tear pt-4">
            <AlertDialog.Cancel asChild>
              <Button size="touch">{no}</Button>
            </AlertDialog.Cancel>
            <Button size="touch" look="main" busy={busy} disabled={!ready} onClick={onYes}>
              {yes}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  )
}
