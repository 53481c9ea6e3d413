import { useEffect, useRef, useState } from 'react'
import type { Fault } from '../../data/call.ts'
import { declined } from './useEdits.ts'

/** Milliseconds after the last key before a field is kept, and before a lost connection is tried again. */
const PAUSE = 500
const RETRY = 3_000

/** A field that keeps itself. */
export interface Kept {
  text: string
  fault: Fault | null
  /** What somebody else put there while this one typed; null when nobody did. */
  theirs: string | null
  /** True while something typed is not kept yet. */
  typed: boolean
  change: (text: string) => void
  flush: () => void
  /** Takes what the server has. */
  drop: () => void
  /** Keeps what was typed over what somebody else put there. */
  insist: () => void
}

/**
 * Shows what the server has until something is typed, sends it after a pause or when the field is left, stays as
 * typed with the fault beside it when it cannot be kept, and tries again by itself after a lost connection.
 * Where the server's value changed while somebody typed, it asks instead of overwriting.
 * @param value what the server has, as the field shows it
 * @param save sends what was typed; null when it is kept
 */
export function useKept(value: string, save: (typed: string) => Promise<Fault | null>): Kept {
  const [typed, setTyped] = useState<string | null>(null)
  const [fault, setFault] = useState<Fault | null>(null)
  const [theirs, setTheirs] = useState<string | null>(null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const latest = useRef<string | null>(null)
  const underway = useRef<string | null>(null)
  /** What the server had when typing began. */
  const base = useRef<string | null>(null)

  const drop = () => {
    latest.current = null
    base.current = null
    setTyped(null)
    setFault(null)
    setTheirs(null)
  }
  const flush = async () => {
    clearTimeout(timer.current)
    const sent = latest.current
    // Leaving the field while its text is on the way must not send it a second time.
    if (sent === null || sent === underway.current) return
    if (sent === value) {
      drop()
      return
    }
    if (base.current !== null && base.current !== value) {
      setTheirs(value)
      return
    }
    underway.current = sent
    const answer = await save(sent)
    underway.current = null
    if (latest.current !== sent) {
      base.current = null
      return
    }
    if (answer === null || declined(answer)) drop()
    else {
      setFault(answer)
      if (answer.code === 'no-connection') timer.current = setTimeout(() => void flushed.current(), RETRY)
    }
  }
  const change = (text: string) => {
    if (latest.current === null) base.current = value
    latest.current = text
    setTyped(text)
    setFault(null)
    setTheirs(null)
    clearTimeout(timer.current)
    timer.current = setTimeout(() => void flushed.current(), PAUSE)
  }
  const insist = () => {
    base.current = value
    setTheirs(null)
    void flush()
  }
  const flushed = useRef(flush)
  useEffect(() => {
    flushed.current = flush
  })
  // What was typed last goes out even when the page is left before the pause is over.
  useEffect(() => () => void flushed.current(), [])
  return {
    text: typed ?? value,
    fault,
    theirs,
    typed: typed !== null,
    change,
    flush: () => void flush(),
    drop,
    insist,
  }
}
