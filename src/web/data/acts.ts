import type { AffectedPerson, Concern } from '../../contract/problems.ts'
import { type Fault, faultOf } from './call.ts'
import { createHistory, type Outcome } from './history.ts'

/** Something that speaks against what somebody is about to do, told before it is done. */
export interface Question {
  title: string
  /** What the button says that does it all the same. */
  yes: string
  detail: string
  affected: readonly AffectedPerson[]
  concerns: readonly Concern[]
}

/** How what is asked first is put; each part has words of its own where it is left out. */
export type Asking = Partial<Pick<Question, 'title' | 'yes'>>

/** One thing that somebody does: what is sent, what follows, what is said, and what takes it back. */
export interface Deed<Answer> {
  /** Sends it; called again with true once the person has confirmed what speaks against it. */
  work: (confirmed: boolean) => Promise<Answer>
  /** Takes what was answered onto the page; after an undo too. */
  put?: (answer: Answer) => void
  /** What is said when it is done. */
  said?: string | ((answer: Answer) => string)
  /** What takes it back: with it, what is said offers to, and Ctrl Z does. */
  undo?: (confirmed: boolean) => Promise<Answer>
  /** What is said once it is taken back, where that is more than its own words. */
  saidUndone?: (answer: Answer) => string
  /** How the question is put where it asks first. */
  ask?: Asking
  /** Called when it did not work: what the page shows may be old. */
  refetch?: () => void
  /** The page says itself what went wrong, beside a field. */
  beside?: boolean
  /** Deeds of one line happen one after the other, in the order in which they were done. */
  line?: string
}

/** What came of a deed. A question that was answered with no is a fault that the person knows of. */
export type Done<Answer> =
  | { fault: null; answer: Answer; declined: false; step: number | null }
  | { fault: Fault; declined: boolean }

/** What a page gives for deeds: a way to say something, and a way to ask. */
export interface Voice {
  /** Says that something was done, with a way to take it back where there is one. */
  say: (words: string, undo?: () => void) => void
  /** Says that something did not work. */
  warn: (words: string) => void
  /** Asks; true for going on all the same. */
  ask: (question: Question) => Promise<boolean>
}

export type Acts = ReturnType<typeof createActs>

const ASKS: Record<string, Pick<Question, 'title' | 'yes'>> = {
  'seated-affected': { title: 'People who sit there are affected', yes: 'Save change' },
  'seating-needs-care': { title: 'Seat them all the same?', yes: 'Seat them' },
  'marks-affected': { title: 'Marks were given already', yes: 'Save changes all the same' },
  'differences-meet': { title: 'Somebody is in two differences', yes: 'Let this one hold' },
}

/**
 * The one way in which something is done: sends it, asks first where the server says that something speaks against
 * it, says what became of it, and remembers how it is taken back. What is said offers to undo that very step, in
 * whatever order; an undo that does not work says why and stays.
 */
export function createActs(voice: Voice) {
  const history = createHistory()
  const lines = new Map<string, Promise<unknown>>()
  const watchers = new Set<() => void>()
  const declined = new WeakSet<Fault>()
  let underway = 0

  const count = (by: number) => {
    underway += by
    for (const watcher of watchers) watcher()
  }

  /** Sends something, and once more where it was asked about and confirmed. */
  const round = async <Answer>(
    work: Deed<Answer>['work'],
    asking: Asking | undefined,
  ): Promise<{ fault: null; answer: Answer } | { fault: Fault; declined: boolean }> => {
    try {
      return { fault: null, answer: await work(false) }
    } catch (error) {
      const fault = faultOf(error)
      const words = ASKS[fault.code]
      if (!words) return { fault, declined: false }
      const { detail, affected = [], concerns = [] } = fault.problem
      if (!(await voice.ask({ ...words, ...asking, detail, affected, concerns })))
        return { fault, declined: true }
    }
    try {
      return { fault: null, answer: await work(true) }
    } catch (error) {
      return { fault: faultOf(error), declined: false }
    }
  }
  /** After what the line was given before; at once without one. */
  const inLine = <T>(line: string | undefined, work: () => Promise<T>): Promise<T> => {
    const before = line === undefined ? undefined : lines.get(line)
    const mine = before ? before.then(work, work) : work()
    if (line !== undefined) {
      lines.set(line, mine)
      const tidy = () => void (lines.get(line) === mine && lines.delete(line))
      mine.then(tidy, tidy)
    }
    return mine
  }
  const told = async <Answer>(deed: Deed<Answer>, way: 'work' | 'undo'): Promise<Done<Answer>> => {
    const work = deed[way]
    if (!work) throw new Error('This cannot be undone')
    count(1)
    try {
      const done = await inLine(deed.line, () => round(work, deed.ask))
      if (done.fault) {
        deed.refetch?.()
        return done
      }
      deed.put?.(done.answer)
      return { ...done, declined: false, step: null }
    } finally {
      count(-1)
    }
  }
  /** The fault in what came of it; one that the person said no to needs no second word. */
  const faultIn = (done: Done<unknown>): Fault | null => {
    if (done.fault && done.declined) declined.add(done.fault)
    return done.fault
  }
  const report = (outcome: Outcome, but: string, then: () => void) => {
    if (outcome === 'done') then()
    else if (outcome !== 'nothing' && !declined.has(outcome)) voice.warn(`${but}. ${outcome.message}`)
  }

  const undo = async (id?: number): Promise<void> => {
    const one = history.step(id)
    if (!one) return
    report(await history.undo(one.id), 'Not undone', () => {
      // What was said when it was done names the step, and does not say how things stand.
      const stands = one.saidUndone()
      const step = one.words.replace(/[.!]$/, '')
      voice.say(stands ? `Undone. ${stands}` : step ? `Undone: “${step}”.` : 'Undone.')
    })
  }

  return {
    /** Does something; gives what came of it. */
    async do<Answer>(deed: Deed<Answer>): Promise<Done<Answer>> {
      const done = await told(deed, 'work')
      if (done.fault) {
        if (!done.declined && !deed.beside) voice.warn(done.fault.message)
        return done
      }
      const said = typeof deed.said === 'function' ? deed.said(done.answer) : deed.said
      let undone = ''
      const step = deed.undo
        ? history.add(
            async () => {
              const back = await told(deed, 'undo')
              undone = back.fault ? '' : (deed.saidUndone?.(back.answer) ?? '')
              return faultIn(back)
            },
            async () => faultIn(await told(deed, 'work')),
            { words: said ?? '', saidUndone: () => undone },
          )
        : null
      if (said) voice.say(said, step === null ? undefined : () => void undo(step))
      return { ...done, step }
    },
    /** Undoes a step, or the last one. */
    undo,
    /** Does the step again that was undone last. */
    async redo(): Promise<void> {
      report(await history.redo(), 'Not done again', () => voice.say('Done again.'))
    },
    /** Whether anything is under way. */
    busy: (): boolean => underway > 0,
    /** Calls back whenever that changes, until the returned function is called. */
    watch(watcher: () => void): () => void {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
  }
}
