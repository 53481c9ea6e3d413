import { type ReactNode, useEffect, useState } from 'react'
import { isRouteErrorResponse, Link, useRouteError } from 'react-router'
import { loadAnew } from './data/loadAnew.ts'
import { Button } from './kit/Button.tsx'

/** Stands where an address leads nowhere. */
export function Lost() {
  return (
    <Apology title="There is nothing at this address" words="Check it against the one you were given.">
      <Link className="font-semibold text-seat underline underline-offset-2" to="/">
        Go to the first page
      </Link>
    </Apology>
  )
}

/** Stands in place of one page that broke or did not load. What is written is kept as drafts. */
export function Broke() {
  const error = useRouteError()
  // What an import gives that did not arrive differs by browser; all say that it was one.
  const missing = error instanceof Error && /import|module|chunk|load/i.test(error.message)
  const [trying, setTrying] = useState(missing)
  // Some browsers remember that code did not arrive, and ask for it no more until the page is loaded anew.
  useEffect(() => {
    if (missing) void loadAnew().then((going) => setTrying(going))
  }, [missing])
  if (isRouteErrorResponse(error)) return <Lost />
  if (trying)
    return (
      <p role="status" className="p-16 text-center text-soft">
        The page is loaded anew…
      </p>
    )
  return (
    <Apology
      title={missing ? 'This page did not load' : 'This page broke'}
      words={
        missing
          ? 'It was asked for twice and did not arrive. Check your connection and load it anew; what you wrote is kept.'
          : 'What you wrote is kept. Load the page anew; if it breaks again, tell whoever runs Haplon.'
      }
    >
      <Button look="main" onClick={() => location.reload()}>
        Load the page anew
      </Button>
      <Link
        className="self-center font-semibold text-seat underline underline-offset-2"
        to="/"
        reloadDocument
      >
        Go to the first page
      </Link>
    </Apology>
  )
}

function Apology({ title, words, children }: { title: string; words: string; children: ReactNode }) {
  useEffect(() => {
    document.title = `${title} · Haplon`
  }, [title])
  return (
    <main id="page" className="mx-auto flex max-w-lg flex-col gap-3 px-5 py-16">
      <h1 className="text-xl">{title}</h1>
      <p className="text-soft">{words}</p>
      <div className="flex flex-wrap gap-3">{children}</div>
    </main>
  )
}
