import { useEffect, useRef, useState } from 'react'
import type { Fault } from '../../data/call.ts'
import { declined } from './useEdits.ts'

/** Milliseconds after the last key before a field is kept. */
const PAUSE = 500

/**
 * A field that keeps itself: shows what the server has until something is typed, sends it after a pause or when
 * the field is left, and stays as typed with the fault beside it when it cannot be kept.
 * @param value what the server has, as the field shows it
 * @param save sends what was typed; null when it is kept
 */
export function useKept(value: string, save: (typed: string) => Promise<Fault | null>) {
  const [typed, setTyped] = useState<string | null>(null)
  const [fault, setFault] = useState<Fault | null>(null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const latest = useRef<string | null>(null)
  const underway = useRef<string | null>(null)

  const flush = async () => {
    clearTimeout(timer.current)
    const sent = latest.current
    // Leaving the field while its text is on the way must not send it a second time.
    if (sent === null || sent === underway.current) return
    if (sent === value) {
      drop()
      return
    }
    underway.current = sent
    const answer = await save(sent)
    underway.current = null
    if (latest.current !== sent) return
    if (answer === null || declined(answer)) drop()
    else setFault(answer)
  }
  const drop = () => {
    latest.current = null
    setTyped(null)
    setFault(null)
  }
  const change = (text: string) => {
    latest.current = text
    setTyped(text)
    setFault(null)
    clearTimeout(timer.current)
    timer.current = setTimeout(() => void flushed.current(), PAUSE)
  }
  const flushed = useRef(flush)
  useEffect(() => {
    flushed.current = flush
  })
  // What was typed last goes out even when the page is left before the pause is over.
  useEffect(() => () => void flushed.current(), [])
  return { text: typed ?? value, fault, change, flush: () => void flush(), drop }
}
