import { useCallback, useEffect, useRef, useState } from 'react'
import { dropUpload } from '../../contract/files.ts'
import { call, faultOf } from '../data/call.ts'
import { useUnsent } from '../data/useDraft.ts'
import { type UploadAim, UploadStopped, upload } from './upload.ts'

/** A file on its way, as the page shows it. */
export interface Going {
  id: number
  name: string
  size: number
  sent: number
  state: 'waits' | 'goes' | 'lost' | 'failed'
  /** What stands in its way. */
  fault: string
  /** Whether it may pass when it is tried again: the connection or the server failed, and nothing is wrong with it. */
  again: boolean
}

/** A file that an earlier load of the page left half way: chosen again, it goes on from there. */
export interface Left {
  code: string
  name: string
  size: number
  sent: number
}

/** Files under way at the same time. */
const AT_ONCE = 3

/**
 * Uploads of one page. Several run at once, each goes on by itself after a lost connection, and one that failed can be
 * tried again from where it was left.
 * @param done is told the name under which a file was kept
 */
export function useUploads(
  sheet: string,
  aim: UploadAim,
  done: (kept: { name: string; newVersion: boolean }, chosen: string) => void,
) {
  const [going, setGoing] = useState<readonly Going[]>([])
  const files = useRef(new Map<number, { file: File; stop: AbortController }>())
  const running = useRef(new Set<number>())
  const next = useRef(1)
  const { aim: kind, group, task, owner } = aim
  const kept = useUnsent<readonly Left[]>(
    `uploads ${sheet} ${kind} ${group ?? ''} ${task ?? ''}${owner ? ` ${owner}` : ''}`,
    [],
  )
  const write = useRef(kept)
  useEffect(() => {
    write.current = kept
  })
  /** Notes how far a file has come, so that it is shown after a reload; null once it is done with. */
  const note = useCallback((code: string, left: Left | null) => {
    const others = write.current.value.filter((one) => one.code !== code)
    const next = left ? [...others, left] : others
    write.current.write(next)
    write.current = { ...write.current, value: next }
  }, [])
  const codes = useRef(new Map<number, string>())
  const latest = useRef({ sheet, aim, done })
  useEffect(() => {
    latest.current = { sheet, aim, done }
  })
  const change = useCallback((id: number, fields: Partial<Going>) => {
    setGoing((list) => list.map((one) => (one.id === id ? { ...one, ...fields } : one)))
  }, [])

  useEffect(() => {
    const free = AT_ONCE - running.current.size
    for (const { id, name } of going.filter((one) => one.state === 'waits').slice(0, Math.max(0, free))) {
      const held = files.current.get(id)
      if (!held || running.current.has(id)) continue
      running.current.add(id)
      change(id, { state: 'goes', fault: '' })
      const { sheet, aim } = latest.current
      upload(
        sheet,
        aim,
        held.file,
        (sent, lost) => {
          change(id, { ...(sent >= 0 && { sent }), state: lost ? 'lost' : 'goes' })
          const code = codes.current.get(id)
          if (code && sent >= 0) note(code, { code, name, size: held.file.size, sent })
        },
        held.stop.signal,
        (code) => {
          codes.current.set(id, code)
          note(code, { code, name, size: held.file.size, sent: 0 })
        },
      )
        .then((kept) => {
          note(codes.current.get(id) ?? '', null)
          files.current.delete(id)
          setGoing((list) => list.filter((one) => one.id !== id))
          latest.current.done(kept, name)
        })
        .catch((error: unknown) => {
          if (error instanceof UploadStopped) return
          const { message, problem } = faultOf(error)
          const again = problem.status === 0 || problem.status >= 500
          change(id, { state: 'failed', fault: message, again })
        })
        .finally(() => {
          running.current.delete(id)
          // Lets the next that waits begin.
          setGoing((list) => [...list])
        })
    }
  }, [going, change, note])

  // Leaving the page leaves what is under way: what has arrived stays, and the same file goes on from there.
  const underway = going.some(({ state }) => state !== 'failed')
  useEffect(() => {
    if (!underway) return
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [underway])

  const here = new Set(codes.current.values())
  return {
    going,
    /** Files that an earlier load of the page left half way. */
    left: kept.value.filter(({ code }) => !here.has(code)),
    /** Gives up one that was left half way. */
    dropLeft(code: string): void {
      note(code, null)
      call(dropUpload, { sheet, upload: code }).catch(() => {})
    },
    add(chosen: readonly File[]): void {
      const added = chosen.map((file): Going => {
        const id = next.current++
        files.current.set(id, { file, stop: new AbortController() })
        return { id, name: file.name, size: file.size, sent: 0, state: 'waits', fault: '', again: false }
      })
      setGoing((list) => [...list, ...added])
    },
    retry: (id: number) => change(id, { state: 'waits', fault: '' }),
    /** Gives one up, with what has arrived of it. */
    stop(id: number): void {
      note(codes.current.get(id) ?? '', null)
      files.current.get(id)?.stop.abort()
      files.current.delete(id)
      setGoing((list) => list.filter((one) => one.id !== id))
    },
  }
}
