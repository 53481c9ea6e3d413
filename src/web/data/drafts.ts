import { type Fault, faultOf } from './call.ts'
import { type Draft, type DraftRules, type DraftState, type Known, neediest } from './draft.ts'
import { createLeftDrafts, type DraftStorage } from './leftDrafts.ts'

interface Entry<Value> {
  rules: DraftRules<Value>
  known: Known<Value>
  /** What was written and is not kept yet; null where everything is. */
  written: { value: Value } | null
  /** What is on its way. */
  sent: { value: Value } | null
  state: DraftState
  fault: Fault | null
  theirs: Value | null
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
 * meanwhile is merged, or shown beside what was written; neither is dropped.
 *
 * Drafts live outside of the pages that show them: what is pending goes out although its page was left.
 */
export function createDrafts(storage: () => DraftStorage | null, owner: () => string) {
  const entries = new Map<string, Entry<unknown>>()
  const left = createLeftDrafts(storage, owner)

  const watchers = new Set<() => void>()
  const show = (entry: Entry<unknown>) => {
    entry.shown = {
      value: entry.written ? entry.written.value : entry.known.value,
      state: entry.state,
      fault: entry.fault,
      theirs: entry.theirs,
    }
    for (const reader of entry.readers) reader()
    for (const watcher of watchers) watcher()
  }
  const store = (key: string, { written, known }: Entry<unknown>) => {
    if (written) left.keep(key, { value: written.value, base: known })
    else left.drop(key)
  }
  const plan = (key: string, entry: Entry<unknown>, after: number) => {
    clearTimeout(entry.timer)
    entry.timer = setTimeout(() => void sendNow(key), after)
  }
  const settle = (key: string, entry: Entry<unknown>, state: DraftState, fault: Fault | null = null) => {
    entry.state = state
    entry.fault = fault
    store(key, entry)
    show(entry)
  }

  /** Sends what is written, unless something is on its way: then it goes when that has been heard of. */
  const sendNow = async (key: string): Promise<void> => {
    const entry = entries.get(key)
    if (!entry?.written || entry.sent || !entry.rules.send || entry.state === 'beside') return
    if (!whole(entry, entry.written.value)) return
    clearTimeout(entry.timer)
    const sent = entry.written
    entry.sent = sent
    settle(key, entry, 'saving')
    try {
      const known = await entry.rules.send(sent.value, entry.known.version)
      entry.sent = null
      entry.tries = 0
      entry.known = known
      if (same(entry.written?.value, sent.value)) {
        entry.written = null
        settle(key, entry, 'kept')
        tidy(key, entry)
      } else {
        settle(key, entry, 'waiting')
        plan(key, entry, 0)
      }
    } catch (error) {
      entry.sent = null
      failed(key, entry, faultOf(error))
    }
  }
  const failed = (key: string, entry: Entry<unknown>, fault: Fault) => {
    const { status, code } = fault.problem
    if (entry.rules.meanwhile?.includes(code)) {
      // What they made of it comes with the next view, and is merged then.
      settle(key, entry, 'waiting')
      entry.rules.fetch?.()
      plan(key, entry, LONGEST)
      return
    }
    // No answer, a server that is down or busy, an ended session: it is not lost, only late.
    const late = status === 0 || status >= 500 || status === 429 || status === 401
    if (!late) return settle(key, entry, 'refused', fault)
    settle(key, entry, 'retrying', fault)
    entry.tries += 1
    plan(key, entry, Math.max(fault.retryAfter, Math.min(LONGEST, RETRY * 2 ** (entry.tries - 1))))
  }
  /** Forgets a draft that nobody shows and that is kept. */
  const tidy = (key: string, entry: Entry<unknown>) => {
    if (entry.readers.size > 0 || entry.written || entry.sent) return
    clearTimeout(entry.timer)
    entries.delete(key)
  }

  const heard = <Value>(key: string, entry: Entry<Value>, theirs: Known<Value>) => {
    const { known, written, sent } = entry
    if (theirs.at < known.at) return
    // The same version is the same thing, even where the server put it down a little otherwise.
    if (theirs.version === known.version && (theirs.version !== null || same(theirs.value, known.value))) {
      entry.known = { ...known, at: theirs.at }
      return
    }
    // While something is on its way, its answer says what holds.
    if (sent) return
    const changed = !same(theirs.value, known.value)
    entry.known = theirs
    if (!written) return show(entry as Entry<unknown>)
    if (!changed || same(theirs.value, written.value)) {
      if (changed) entry.written = null
      settle(key, entry as Entry<unknown>, changed ? 'kept' : 'waiting')
      if (!changed) plan(key, entry as Entry<unknown>, 0)
      return
    }
    const merged = entry.rules.merge?.(known.value, written.value, theirs.value) ?? null
    if (merged === null) {
      entry.theirs = theirs.value
      settle(key, entry as Entry<unknown>, 'beside')
      return
    }
    entry.written = same(merged, theirs.value) ? null : { value: merged }
    settle(key, entry as Entry<unknown>, entry.written ? 'waiting' : 'kept')
    if (entry.written) plan(key, entry as Entry<unknown>, 0)
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
      const before = left.of(key) as { value: Value; base: Known<Value> } | null
      const entry: Entry<Value> = {
        rules,
        known: before?.base ?? theirs,
        written: before ? { value: before.value } : null,
        sent: null,
        state:
          !before || !rules.send ? 'kept' : (rules.ready?.(before.value) ?? true) ? 'waiting' : 'unfinished',
        fault: null,
        theirs: null,
        tries: 0,
        timer: undefined,
        readers: new Set(),
        shown: { value: before ? before.value : theirs.value, state: 'kept', fault: null, theirs: null },
      }
      entry.shown = { ...entry.shown, state: entry.state }
      entries.set(key, entry as Entry<unknown>)
      return entry.shown
    },
    /** Hears what the server has by now. */
    heard<Value>(key: string, theirs: Known<Value>): void {
      const entry = entries.get(key) as Entry<Value> | undefined
      if (entry) heard(key, entry, theirs)
    },
    /** Calls back whenever the draft changes, until the returned function is called. */
    read(key: string, reader: () => void): () => void {
      const entry = entries.get(key)
      if (!entry) return () => {}
      entry.readers.add(reader)
      // What an earlier page left goes out as soon as somebody shows it.
      if (entry.written && !entry.sent && entry.state === 'waiting') plan(key, entry, 0)
      return () => {
        entry.readers.delete(reader)
        if (entry.written && entry.rules.send) void sendNow(key)
        else tidy(key, entry)
      }
    },
    shown: <Value>(key: string): Draft<Value> | undefined =>
      (entries.get(key) as Entry<Value> | undefined)?.shown,
    /** Writes something. */
    write<Value>(key: string, value: Value): void {
      const entry = entries.get(key) as Entry<Value> | undefined
      if (!entry) return
      if (!entry.sent && same(value, entry.known.value)) {
        entry.written = null
        entry.theirs = null
        clearTimeout(entry.timer)
        settle(key, entry as Entry<unknown>, 'kept')
        return
      }
      entry.written = { value }
      const beside = entry.state === 'beside'
      if (!whole(entry as Entry<unknown>, value)) {
        clearTimeout(entry.timer)
        settle(key, entry as Entry<unknown>, 'unfinished')
        return
      }
      settle(key, entry as Entry<unknown>, beside ? 'beside' : entry.sent ? 'saving' : 'waiting')
      if (entry.rules.send && !entry.sent && !beside) plan(key, entry as Entry<unknown>, entry.rules.pause)
    },
    /** Sends at once what is written. Resolves when everything is kept, or it is known that it is not. */
    async flush(key: string): Promise<boolean> {
      for (let i = 0; i < 4; i++) {
        const entry = entries.get(key)
        if (!entry?.written) return true
        if (entry.sent) await new Promise<void>((resolve) => onceHeard(entry, resolve))
        else await sendNow(key)
        if (NOT_NOW.has(entries.get(key)?.state ?? 'kept')) return false
      }
      return !entries.get(key)?.written
    },
    /** Where somebody else changed it meanwhile: keeps one's own, or takes theirs. */
    decide(key: string, whose: 'mine' | 'theirs'): void {
      const entry = entries.get(key)
      if (!entry) return
      entry.theirs = null
      if (whose === 'theirs') entry.written = null
      settle(key, entry, whose === 'theirs' ? 'kept' : 'waiting')
      if (whose === 'mine') plan(key, entry, 0)
    },
    /** Drops what was written: it was handed on otherwise, or is not wanted. */
    drop(key: string): void {
      const entry = entries.get(key)
      if (!entry) {
        left.drop(key)
        return
      }
      clearTimeout(entry.timer)
      entry.written = null
      entry.theirs = null
      settle(key, entry, 'kept')
    },
    /** Sends everything that is pending now: the page is being left, or the connection is back. */
    flushAll(): void {
      for (const [key, entry] of entries) {
        if (entry.written && !entry.sent) void sendNow(key)
      }
    },
    /** Sends everything that is pending; true when all of it is kept. */
    async flushEvery(): Promise<boolean> {
      const all = [...entries].flatMap(([key, { written, rules }]) => (written && rules.send ? [key] : []))
      const kept = await Promise.all(all.map((key) => this.flush(key)))
      return kept.every(Boolean)
    },
    /** How everything stands whose key begins so: the state that needs somebody most. */
    worst(prefix: string): DraftState {
      const states = new Set(
        [...entries].flatMap(([key, { state, rules }]) =>
          rules.send && key.startsWith(prefix) ? [state] : [],
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
      [...entries.values()].some(({ written, rules }) => written !== null && rules.send),
    /** Forgets everything that somebody wrote in this tab; at the sign-out. */
    forget(): void {
      left.forget()
      for (const { timer } of entries.values()) clearTimeout(timer)
      entries.clear()
    },
  }
}

/** States from which sending again at once leads nowhere. */
const NOT_NOW: ReadonlySet<DraftState> = new Set(['refused', 'retrying', 'unfinished', 'beside'])

function whole({ rules }: Entry<unknown>, value: unknown): boolean {
  return rules.ready?.(value) ?? true
}

function onceHeard(entry: Entry<unknown>, then: () => void): void {
  const reader = () => {
    if (entry.sent) return
    entry.readers.delete(reader)
    then()
  }
  entry.readers.add(reader)
}

/** Whether two plain values are the same. */
function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b)
}
