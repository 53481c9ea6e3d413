import { Dialog } from 'radix-ui'
import type { FormEvent, ReactNode } from 'react'
import { useOpener } from './useOpener.ts'

/**
 * A form over the page. What is typed into it is a draft of its caller's (`useUnsent`), so that a click outside, Esc
 * or leaving loses nothing: opened again, it stands there.
 */
export function FormBox({
  title,
  words,
  onClose,
  onSubmit,
  children,
}: {
  title: string
  /** Said below the title. */
  words?: string
  onClose: () => void
  onSubmit: (event: FormEvent) => unknown
  children: ReactNode
}) {
  const opener = useOpener()
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[#161222]/45" />
        <Dialog.Content
          {...opener}
          {...(words ? {} : { 'aria-describedby': undefined })}
          className="fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-card border border-line bg-surface p-5 shadow-xl"
        >
          <Dialog.Title className="text-lg">{title}</Dialog.Title>
          {words && <Dialog.Description className="mt-1 text-soft">{words}</Dialog.Description>}
          <form className="mt-3 flex flex-col gap-4" onSubmit={(event) => void onSubmit(event)}>
            {children}
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
