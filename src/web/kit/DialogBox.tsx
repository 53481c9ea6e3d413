import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'
import { Button } from './Button.tsx'
import { useOpener } from './useOpener.ts'

const WIDTHS = {
  small: 'w-[min(28rem,calc(100vw-2rem))]',
  medium: 'w-[min(48rem,calc(100vw-2rem))]',
  large: 'w-[min(60rem,calc(100vw-2rem))]',
}

/** The box of a dialog over the page: its title, what is in it, and a way to close it. Stands in a `Dialog.Root`. */
export function DialogBox({
  title,
  width = 'small',
  children,
}: {
  title: string
  width?: keyof typeof WIDTHS
  children: ReactNode
}) {
  const opener = useOpener()
  return (
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
      <Dialog.Content
        {...opener}
        aria-describedby={undefined}
        className={`fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 overflow-auto rounded-card border border-line bg-surface p-5 shadow-xl ${WIDTHS[width]}`}
      >
        <Dialog.Title className="text-lg">{title}</Dialog.Title>
        {children}
        <div className="flex justify-end border-t tear pt-3">
          <Dialog.Close asChild>
            <Button>Close</Button>
          </Dialog.Close>
        </div>
      </Dialog.Content>
    </Dialog.Portal>
  )
}
