import type { ComponentType } from 'react'
import type { ExternalToast } from 'sonner'
import { loaded } from '../data/loaded.ts'
import { quiet } from '../data/quiet.ts'
import { watched } from '../data/watched.ts'

type How = 'message' | 'success' | 'error'

/** What was said, where the code of messages could not be had: it stands on the page in plain words. */
export interface Plain {
  words: string
  action?: { label: string; onClick: () => void }
}

interface Showing {
  Place: ComponentType<{ onShown: () => void }> | null
  plain: Plain | null
}

/** Milliseconds for which plain words stand, unless whoever says them names others. */
const STAY = 6_000

const showing = watched<Showing>({ Place: null, plain: null })
const show = (change: Partial<Showing>): void => showing.set({ ...showing.get(), ...change })

/** What is shown of messages: their place once its code is here, plain words until then. */
export const useShowing = (): Showing => showing.use((all) => all)

let shown: () => void = () => {}
const placeShown = new Promise<void>((resolve) => {
  shown = resolve
})

/** Says that the place for messages is on the page. */
export const onPlaceShown = (): void => shown()

async function bring(): Promise<typeof import('sonner').toast> {
  const [{ toast }, { Messages }] = await loaded(() =>
    Promise.all([import('sonner'), import('./Messages.tsx')]),
  )
  if (!showing.get().Place) show({ Place: Messages })
  await placeShown
  return toast
}

// Fetched once the page stands, so that there are words without a network too.
void quiet()
  .then(bring)
  .catch(() => {})

async function say(how: How, words: string, options?: ExternalToast): Promise<void> {
  try {
    const toast = await bring()
    toast[how](words, options)
  } catch {
    sayPlainly(words, options)
  }
}

function sayPlainly(words: string, options?: ExternalToast): void {
  const plain: Plain = { words }
  const action = options?.action
  if (action && typeof action === 'object' && 'onClick' in action)
    plain.action = {
      label: String(action.label),
      onClick: () => {
        show({ plain: null })
        action.onClick({} as never)
      },
    }
  show({ plain })
  setTimeout(() => {
    if (showing.get().plain === plain) show({ plain: null })
  }, options?.duration ?? STAY)
}

/** Says something in passing, at the top of the page; screen readers say it too. */
export const toast = Object.assign(
  (words: string, options?: ExternalToast) => void say('message', words, options),
  {
    success: (words: string, options?: ExternalToast) => void say('success', words, options),
    error: (words: string, options?: ExternalToast) => void say('error', words, options),
  },
)
