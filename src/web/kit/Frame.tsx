import { createContext, type FunctionComponent, type ReactNode, use, useEffect } from 'react'
import { Link } from 'react-router'
import { Mark } from './Mark.tsx'

/** What stands at the end of the bar; the application says it once. */
export const BarEnd = createContext<ReactNode>(null)

/** What staff find things with, for pages that students load too; the application says it once. */
export const StaffFind = createContext<FunctionComponent<{ sheet: { code: string; title: string } }> | null>(
  null,
)

export interface Crumb {
  label: string
  to?: string
}

const FITTED = 'lg:[@media(min-height:38rem)]:h-dvh'

/** The bar above every page and the page below it. The last crumb is where one is. */
export function Frame({
  title,
  crumbs = [],
  find,
  fit = false,
  children,
}: {
  /** The page's name, for the browser. */
  title: string
  crumbs?: readonly Crumb[]
  find?: ReactNode
  /** Whether the page fits itself into the window where that is large enough, and scrolls inside. */
  fit?: boolean
  children: ReactNode
}) {
  useEffect(() => {
    document.title = title === '' ? 'Haplon' : `${title} · Haplon`
  }, [title])
  return (
    <div className={`flex min-h-dvh flex-col ${fit ? FITTED : ''}`}>
      <a
        href="#page"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-surface focus:px-4 focus:py-2"
      >
        Skip to the page
      </a>
      <header className="flex min-h-[2.875rem] items-center print:hidden gap-3 border-b border-line bg-surface px-5 max-sm:min-h-14 max-sm:px-4">
        <Link to="/" className="flex shrink-0 items-center gap-2 font-display text-lg font-bold">
          <Mark />
          Haplon
        </Link>
        {crumbs.length > 0 && (
          <nav aria-label="Where you are" className="min-w-0 text-soft max-sm:hidden">
            <ol className="flex min-w-0 gap-2">
              {crumbs.map(({ label, to }, i) => (
                <li key={`${label}${to ?? ''}`} className="flex min-w-0 gap-2">
                  {i > 0 && <span aria-hidden="true">/</span>}
                  {to ? (
                    <Link to={to} className="truncate hover:underline">
                      {label}
                    </Link>
                  ) : (
                    <span aria-current="page" className="truncate font-semibold text-ink">
                      {label}
                    </span>
                  )}
                </li>
              ))}
            </ol>
          </nav>
        )}
        <div className="ml-auto flex items-center gap-3">
          {find}
          {use(BarEnd)}
        </div>
      </header>
      <main id="page" className="flex min-h-0 flex-1 flex-col">
        {children}
      </main>
    </div>
  )
}
