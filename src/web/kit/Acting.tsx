import {
  createContext,
  type ReactNode,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
  useSyncExternalStore,
} from 'react'
import { type Acts, createActs, type Deed, type Done, type Question, type Voice } from '../data/acts.ts'
import type { Fault } from '../data/call.ts'
import { useUndoKeys } from './keys.ts'
import { part } from './part.tsx'
import { toast } from './toast.ts'

// A question comes seldom and never first.
const Ask = part(async () => (await import('./Ask.tsx')).Ask)

const ActsContext = createContext<Acts | null>(null)

/** Milliseconds that words with an undo stay, and words about something that did not work. */
const STAY = 10_000

/** Lets what is below do things: one history with its keys, and one question, for each page. */
export function Acting({ page, children }: { page: string; children: ReactNode }) {
  const [asked, setAsked] = useState<{ question: Question; answer: (yes: boolean) => void } | null>(null)
  const open = useRef<((yes: boolean) => void) | null>(null)
  const [voice] = useState<Voice>(() => ({
    say: (words, undo) =>
      void (undo
        ? toast(words, { duration: STAY, action: { label: 'Undo', onClick: undo } })
        : toast.success(words)),
    warn: (words) => void toast.error(words, { duration: STAY }),
    ask: (question) =>
      new Promise((resolve) => {
        // One question at a time; one that is asked over is answered with no.
        open.current?.(false)
        open.current = (yes) => {
          open.current = null
          setAsked(null)
          resolve(yes)
        }
        setAsked({ question, answer: open.current })
      }),
  }))
  // biome-ignore lint/correctness/useExhaustiveDependencies: another page is another history
  const acts = useMemo(() => createActs(voice), [voice, page])
  // Whoever leaves the page has not said yes.
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked about one page
  useEffect(() => () => open.current?.(false), [page])
  useUndoKeys(
    () => void acts.undo(),
    () => void acts.redo(),
  )
  return (
    <ActsContext value={acts}>
      {children}
      {asked && (
        <Ask
          open
          title={asked.question.title}
          yes={asked.question.yes}
          onYes={() => asked.answer(true)}
          onNo={() => asked.answer(false)}
        >
          <Against question={asked.question} />
        </Ask>
      )}
    </ActsContext>
  )
}

/** What speaks against it: in words, with whom it is about. */
function Against({ question: { detail, affected, concerns } }: { question: Question }) {
  if (concerns.length > 0) {
    return (
      <ul className="flex max-h-64 list-disc flex-col gap-1 overflow-auto pl-5">
        {concerns.map(({ person, words }) => (
          <li key={`${person} ${words}`}>{words}</li>
        ))}
      </ul>
    )
  }
  return (
    <>
      <p>{detail}</p>
      {affected.length > 0 && (
        <ul className="max-h-48 list-disc overflow-auto pl-5">
          {affected.map(({ name, section }) => (
            <li key={`${name}${section}`}>
              <strong className="text-ink">{name}</strong>
              {section && `, ${section}`}
            </li>
          ))}
        </ul>
      )}
    </>
  )
}

/** How a part of a page does things: its own busy and fault, the page's history and question. */
export interface Act {
  /** Does something; gives what came of it. */
  do: <Answer>(deed: Deed<Answer>) => Promise<Done<Answer>>
  /** Whether something that this part did is under way. */
  busy: boolean
  /** What stood in the way of the last thing that was to be shown beside a field. */
  fault: Fault | null
  clear: () => void
}

/** A way to do things, for one form or one part of a page. Only below `Acting`. */
export function useAct(): Act {
  const acts = useActs()
  const [underway, setUnderway] = useState(0)
  const [fault, setFault] = useState<Fault | null>(null)
  return {
    do: async (deed) => {
      setUnderway((n) => n + 1)
      setFault(null)
      try {
        const done = await acts.do(deed)
        if (done.fault && !done.declined && deed.beside) setFault(done.fault)
        return done
      } finally {
        setUnderway((n) => n - 1)
      }
    },
    busy: underway > 0,
    fault,
    clear: () => setFault(null),
  }
}

/** What was done on the page, for undo and redo from elsewhere than the keys. */
export function useActs(): Acts {
  const acts = useContext(ActsContext)
  if (!acts) throw new Error('useActs stands outside Acting')
  return acts
}

/** Whether anything that was done on the page is under way. */
export function useActing(): boolean {
  const acts = useActs()
  return useSyncExternalStore(acts.watch, acts.busy)
}
