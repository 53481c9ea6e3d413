import { faultOf } from './call.ts'
import { type Draft, type DraftRules, type DraftState, type Known, neediest } from './draft.ts'
import * as slots from './draftSlot.ts'
import { createLeftDrafts, type Left } from './leftDrafts.ts'
import type { TabStorage } from './tabKept.ts'

interface Entry<Value> {
  rules: DraftRules<Value>
  slot: slots.Slot<Value>
  tries: number
  timer: ReturnType<typeof setTimeout> | undefined
  readers: Set<() => void>
  shown: Draft<Value>
}

export type Drafts = ReturnType<typeof createDrafts>

/** Milliseconds before what was not heard of is sent again: at first, and at the most. */
const RETRY = 1_000
const LONGEST = 15_000

/**
 * The one way in which what is written keeps itself. A draft is sent after a pause, one send after the other; what was
 * written is held until the server has confirmed it, on this page and in the tab's storage, so that leaving, a
 * reload, a lost connection, a slow or lost answer and a restarted server lose nothing. What somebody else changed
 * meanwhile is merged, or shown beside what was written; neither is dropped. What each step makes of a draft stands in
 * `draftSlot.ts`; here are its timers, its sends and its storage.
 *
 * Drafts live outside of the pages that show them: what is pending goes out although its page was left. They are one
 * person's: what is forgotten, or was somebody else's, hears no answer any more.
 */
export function createDrafts(storage: () => TabStorage | null, owner: () => string) {
  const entries = new Map<string, Entry<unknown>>()
  const left = createLeftDrafts(storage, owner)

  const watchers = new Set<() => void>()
  const wholeOf = ({ rules }: Entry<unknown>) => rules.ready ?? (() => true)
  /** Takes a step: what it makes is kept in the tab and shown. */
  const step = (key: string, entry: Entry<unknown>, slot: slots.Slot<unknown>) => {
    entry.slot = slot
    const { written, base, unheard, sent } = slot
    if (written) left.keep(key, leftOf(written.value, base, unheard, sent))
    else left.drop(key)
    entry.shown = slots.shownOf(slot, wholeOf(entry))
    for (const reader of entry.readers) reader()
    for (const watcher of watchers) watcher()
  }
  const plan = (key: string, entry: Entry<unknown>, after: number) => {
    clearTimeout(entry.timer)
    entry.timer = setTimeout(() => void sendNow(key), after)
  }
  /** Sends what waits to be sent, or asks for what the server has, when that is due. */
  const goOn = (key: string, entry: Entry<unknown>, after = 0) => {
    const { written, held } = entry.slot
    if (slots.isOpen(entry.slot)) ask(key, entry)
    else if (written && entry.rules.send && held === 'no' && !entry.slot.sent) plan(key, entry, after)
  }
  /** Asks for what the server has until it is known: what was dropped may have arrived. */
  const ask = (key: string, entry: Entry<unknown>) => {
    clearTimeout(entry.timer)
    entry.rules.fetch?.()
    entry.tries += 1
    entry.timer = setTimeout(() => slots.isOpen(entry.slot) && ask(key, entry), pauseOf(entry.tries))
  }

  /** Sends what is written, unless something is on its way: then it goes when that has been heard of. */
  const sendNow = async (key: string): Promise<void> => {
    const entry = entries.get(key)
    if (!entry?.slot.written || entry.slot.sent || !entry.rules.send || entry.slot.held === 'beside') return
    const { value } = entry.slot.written
    if (!wholeOf(entry)(value)) return
    clearTimeout(entry.timer)
    step(key, entry, slots.sending(entry.slot))
    const { send, merge } = entry.rules
    try {
      const known = await send(value, entry.slot.server.version)
      // What was forgotten meanwhile stays forgotten.
      if (entries.get(key) !== entry) return
      entry.tries = 0
      step(key, entry, slots.answered(entry.slot, known, merge))
    } catch (error) {
      if (entries.get(key) !== entry) return
      failed(key, entry, error)
    }
    goOn(key, entry)
    tidy(key, entry)
  }
  const failed = (key: string, entry: Entry<unknown>, error: unknown) => {
    const fault = faultOf(error)
    const { status, code } = fault.problem
    const { meanwhile, merge } = entry.rules
    if (meanwhile?.includes(code)) {
      // What they made of it comes with the next view, and is merged then.
      step(key, entry, slots.overtaken(entry.slot, merge))
      if (entry.slot.held !== 'asking') return
      entry.rules.fetch?.()
      plan(key, entry, LONGEST)
      return
    }
    // No answer, or a server that is down: it may have arrived. A busy one, or an ended session: it has not.
    const maybe = status === 0 || status >= 500
    if (!maybe && status !== 429 && status !== 401)
      return step(key, entry, slots.refused(entry.slot, fault, merge))
    step(key, entry, slots.lost(entry.slot, fault, maybe, merge))
    if (entry.slot.held !== 'again' || !entry.slot.written) return
    entry.tries += 1
    plan(key, entry, Math.max(fault.retryAfter, pauseOf(entry.tries)))
  }
  /** Forgets a draft that nobody shows and that is kept. */
  const tidy = (key: string, entry: Entry<unknown>) => {
    if (entry.readers.size > 0 || entry.slot.written || entry.slot.sent) return
    clearTimeout(entry.timer)
    if (entries.get(key) === entry) entries.delete(key)
  }

  return {
    /**
     * The draft under a key, which begins with what the server has; what an earlier page wrote and could not keep is
     * taken up again. Called at each drawing, with what the server has by then.
     */
    open<Value>(key: string, rules: DraftRules<Value>, theirs: Known<Value>): Draft<Value> {
      const known = entries.get(key) as Entry<Value> | undefined
      if (known) {
        known.rules = rules
        return known.shown
      }
      const before = left.of(key) as Left<Value> | null
      const slot: slots.Slot<Value> = before
        ? { ...slots.slotOf(before.base), written: { value: before.value }, unheard: before.unheard ?? [] }
        : slots.slotOf(theirs)
      const entry: Entry<Value> = {
        rules,
        slot,
        tries: 0,
        timer: undefined,
        readers: new Set(),
        shown: slots.shownOf(slot, rules.ready ?? (() => true)),
      }
      entries.set(key, entry as Entry<unknown>)
      return entry.shown
    },
    /** Hears what the server has by now. */
    heard<Value>(key: string, theirs: Known<Value>): void {
      const entry = entries.get(key) as Entry<Value> | undefined
      if (!entry) return
      const before = entry.slot
      const next = slots.heard(before, theirs, entry.rules.merge)
      if (next === before) return
      step(key, entry as Entry<unknown>, next)
      // What is said again brings nothing forward: what was lost, or refused, is sent when it is due.
      if (next.server.version !== before.server.version || next.held !== before.held)
        goOn(key, entry as Entry<unknown>)
    },
    /** Calls back whenever the draft changes, until the returned function is called. */
    read(key: string, reader: () => void): () => void {
      const entry = entries.get(key)
      if (!entry) return () => {}
      entry.readers.add(reader)
      // What an earlier page left goes out as soon as somebody shows it.
      goOn(key, entry)
      return () => {
        entry.readers.delete(reader)
        if (entry.slot.written && entry.rules.send) void sendNow(key)
        else tidy(key, entry)
      }
    },
    shown: <Value>(key: string): Draft<Value> | undefined =>
      (entries.get(key) as Entry<Value> | undefined)?.shown,
    /** Writes something. */
    write<Value>(key: string, value: Value): void {
      const entry = entries.get(key)
      if (!entry) return
      clearTimeout(entry.timer)
      step(key, entry, slots.wrote(entry.slot, value))
      if (wholeOf(entry)(value)) goOn(key, entry, entry.rules.pause)
    },
    /** Sends at once what is written. Resolves when everything is kept, or it is known that it is not. */
    async flush(key: string): Promise<boolean> {
      for (let i = 0; i < 4; i++) {
        const entry = entries.get(key)
        if (!entry?.slot.written) return true
        if (entry.slot.sent) await new Promise<void>((resolve) => onceHeard(entry, resolve))
        else await sendNow(key)
        if (NOT_NOW.has(entries.get(key)?.shown.state ?? 'kept')) return false
      }
      return !entries.get(key)?.slot.written
    },
    /** Where somebody else changed it meanwhile: keeps one's own, or takes theirs. */
    decide(key: string, whose: 'mine' | 'theirs'): void {
      const entry = entries.get(key)
      if (!entry) return
      step(key, entry, slots.decided(entry.slot, whose))
      goOn(key, entry)
    },
    /** Drops what was written: it was handed on otherwise, or is not wanted. */
    drop(key: string): void {
      const entry = entries.get(key)
      if (!entry) {
        left.drop(key)
        return
      }
      clearTimeout(entry.timer)
      step(key, entry, slots.dropped(entry.slot))
      goOn(key, entry)
    },
    /** Sends everything that is pending now: the page is being left, or the connection is back. */
    flushAll(): void {
      for (const [key, { slot }] of entries) {
        if (slot.written && !slot.sent) void sendNow(key)
      }
    },
    /** Sends everything that is pending; true when all of it is kept. */
    async flushEvery(): Promise<boolean> {
      const all = [...entries].flatMap(([key, { slot, rules }]) => (slot.written && rules.send ? [key] : []))
      const kept = await Promise.all(all.map((key) => this.flush(key)))
      return kept.every(Boolean)
    },
    /** How everything stands whose key begins so: the state that needs somebody most. */
    worst(prefix: string): DraftState {
      const states = new Set(
        [...entries].flatMap(([key, { shown, rules }]) =>
          rules.send && key.startsWith(prefix) ? [shown.state] : [],
        ),
      )
      return neediest(states)
    },
    /** Calls back whenever any draft changes, until the returned function is called. */
    watch(watcher: () => void): () => void {
      watchers.add(watcher)
      return () => watchers.delete(watcher)
    },
    /** Whether anything is not kept yet. */
    pending: (): boolean =>
      [...entries.values()].some(({ slot, rules }) => slot.written !== null && rules.send),
    /** Lets go of everything that is held in memory: somebody else writes here from now on. What is kept in the tab stays. */
    letGo(): void {
      for (const { timer } of entries.values()) clearTimeout(timer)
      entries.clear()
    },
    /** Forgets everything that somebody wrote in this tab; at the sign-out. */
    forget(): void {
      left.forget()
      this.letGo()
    },
  }
}

/** Milliseconds before something is tried for the n-th time. */
const pauseOf = (tries: number): number => Math.min(LONGEST, RETRY * 2 ** (tries - 1))

/** What a reload finds: what was written, over what, and what may have arrived. */
function leftOf(
  value: unknown,
  base: Known<unknown>,
  unheard: readonly unknown[],
  sent: { value: unknown } | null,
): Left<unknown> {
  const all = sent ? [...unheard, sent.value] : unheard
  return { value, base, ...(all.length > 0 && { unheard: all }) }
}

/** States from which sending again at once leads nowhere. */
const NOT_NOW: ReadonlySet<DraftState> = new Set(['refused', 'retrying', 'unfinished', 'beside'])

function onceHeard(entry: Entry<unknown>, then: () => void): void {
  const reader = () => {
    if (entry.slot.sent) return
    entry.readers.delete(reader)
    then()
  }
  entry.readers.add(reader)
}
