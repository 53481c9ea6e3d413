import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { Outlet, useLocation, useNavigation, useNavigationType } from 'react-router'
import { BASE } from './data/base.ts'
import { useOlder } from './data/build.ts'
import { Acting } from './kit/Acting.tsx'
import { toast } from './kit/toast.ts'

/** What all pages have in common: where one is on them, a sign of waiting, deeds and their undo, newer pages. */
export function Root() {
  const { pathname } = useLocation()
  usePlace()
  useHeadingFocus(pathname)
  useNewer(pathname)
  return (
    <>
      <Underway />
      <Acting page={pathname}>
        <Outlet />
      </Acting>
    </>
  )
}

/** Milliseconds after which a page whose code is slow shows that it is on its way. */
const PATIENCE = 300

/** A line along the top while the code of the next page is on its way. */
function Underway() {
  const loading = useNavigation().state === 'loading'
  const [late, setLate] = useState(false)
  useEffect(() => {
    if (!loading) return
    const timer = setTimeout(() => setLate(true), PATIENCE)
    return () => {
      clearTimeout(timer)
      setLate(false)
    }
  }, [loading])
  return (
    <div role="status" className="fixed inset-x-0 top-0 z-50">
      {late && (
        <>
          <span className="sr-only">The page is on its way.</span>
          <span className="block h-1 animate-pulse bg-ember" />
        </>
      )}
    </div>
  )
}

// The pages of a rehearsal stand in a frame of this tab, and have places of their own.
const PLACES = `haplon.places${BASE}`
/** Milliseconds in which a page may grow to the place where it was left. */
const GROWING = 4_000

/** Begins a new page at its top, and shows one that is gone back to where it was left. */
function usePlace(): void {
  const { key, pathname } = useLocation()
  const how = useNavigationType()
  const places = useRef<Map<string, number>>(null)
  const here = useRef({ key, pathname })
  places.current ??= readPlaces()
  useEffect(() => {
    history.scrollRestoration = 'manual'
    const onScroll = () => places.current?.set(here.current.key, scrollY)
    const onLeave = () => {
      try {
        sessionStorage.setItem(PLACES, JSON.stringify([...(places.current ?? [])].slice(-60)))
      } catch {
        // A full storage keeps no places; the page begins at its top then.
      }
    }
    addEventListener('scroll', onScroll, { passive: true })
    addEventListener('pagehide', onLeave)
    return () => {
      removeEventListener('scroll', onScroll)
      removeEventListener('pagehide', onLeave)
    }
  }, [])
  useLayoutEffect(() => {
    const same = here.current.pathname === pathname && here.current.key !== key
    here.current = { key, pathname }
    if (how === 'POP') return returnTo(places.current?.get(key) ?? 0)
    if (!same) scrollTo(0, 0)
  }, [key, pathname, how])
}

function readPlaces(): Map<string, number> {
  try {
    return new Map(JSON.parse(sessionStorage.getItem(PLACES) ?? '[]') as [string, number][])
  } catch {
    return new Map()
  }
}

/** Scrolls to a place as soon as the page is long enough, unless the reader scrolls meanwhile. */
function returnTo(place: number): () => void {
  scrollTo(0, place)
  if (Math.abs(scrollY - place) < 2) return () => {}
  const grown = new ResizeObserver(() => {
    scrollTo(0, place)
    if (Math.abs(scrollY - place) < 2) stop()
  })
  const timer = setTimeout(() => stop(), GROWING)
  const stop = () => {
    clearTimeout(timer)
    grown.disconnect()
    for (const event of BY_HAND) removeEventListener(event, stop)
  }
  for (const event of BY_HAND) addEventListener(event, stop, { passive: true })
  grown.observe(document.body)
  return stop
}

const BY_HAND = ['wheel', 'touchmove', 'keydown', 'pointerdown']

/** After a change of page, the focus is on its heading, or on the field that took it. */
function useHeadingFocus(pathname: string): void {
  const before = useRef(pathname)
  useEffect(() => {
    if (before.current === pathname) return
    before.current = pathname
    if (focusHeading()) return
    const watch = new MutationObserver(() => focusHeading() && stop())
    const timer = setTimeout(() => stop(), GROWING * 3)
    const stop = () => {
      clearTimeout(timer)
      watch.disconnect()
      for (const event of BY_HAND) removeEventListener(event, stop)
    }
    for (const event of BY_HAND) addEventListener(event, stop, { passive: true })
    watch.observe(document.body, { childList: true, subtree: true })
    return stop
  }, [pathname])
}

/** Focuses the page's heading; true when it, or something else of the page, has the focus. */
function focusHeading(): boolean {
  const active = document.activeElement
  if (active !== null && active !== document.body && document.querySelector('#page')?.contains(active))
    return true
  const heading = document.querySelector<HTMLElement>('#page h1')
  if (!heading) return false
  heading.tabIndex = -1
  heading.focus({ preventScroll: true })
  return true
}

/** Says once that the server has newer pages, and loads them at the next change of page. */
function useNewer(pathname: string): void {
  const older = useOlder()
  const said = useRef<string | null>(null)
  useEffect(() => {
    if (!older) return
    if (said.current === null) {
      said.current = pathname
      toast('Haplon was renewed. The next page you go to is loaded anew; what you write here is kept.', {
        duration: 12_000,
        action: { label: 'Load now', onClick: () => location.reload() },
      })
    } else if (said.current !== pathname) location.reload()
  }, [older, pathname])
}
