import { isRouteErrorResponse, Link, useRouteError } from 'react-router'

/** Stands where an address leads nowhere, or where a page broke. */
export function Lost() {
  const error = useRouteError()
  const broke = error !== undefined && error !== null && !isRouteErrorResponse(error)
  return (
    <main className="mx-auto flex max-w-lg flex-col gap-3 px-5 py-16">
      <h1 className="text-xl">{broke ? 'This page broke' : 'There is nothing at this address'}</h1>
      <p className="text-soft">
        {broke
          ? 'What you entered before is kept. Load the page anew; if it breaks again, tell whoever runs Haplon.'
          : 'Check it against the one you were given.'}
      </p>
      <Link className="font-semibold text-seat underline underline-offset-2" to="/" reloadDocument={broke}>
        Go to the first page
      </Link>
    </main>
  )
}
