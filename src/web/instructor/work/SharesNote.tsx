import type { DeskPile } from '../../../contract/marks.ts'
import { EVEN_SHARE } from '../../../core/shares.ts'

/** How the members of a group say its work was shared, beside its mark. It changes no mark by itself. */
export function SharesNote({ pile: { shares, people } }: { pile: DeskPile }) {
  if (!shares) return null
  const nameOf = (code: string) => people.find((one) => one.code === code)?.name ?? 'Somebody'
  const words = shares.given.filter((one) => one.words !== '')
  return (
    <section aria-labelledby="shared" className="mt-6 border-t tear pt-4">
      <h2 id="shared" className="text-lg">
        How the work was shared
      </h2>
      {shares.given.length === 0 ? (
        <p className="text-soft">None of them has said so far.</p>
      ) : (
        <>
          <p className="text-soft">
            {shares.given.length} of {people.length} have said. {EVEN_SHARE} is an even share; it changes no
            mark by itself.
          </p>
          <div className="overflow-x-auto">
            <table className="mt-2 text-sm">
              <caption className="sr-only">Points that each gave to the others</caption>
              <thead>
                <tr className="text-left text-soft">
                  <th scope="col" className="pr-4 font-semibold">
                    Gave
                  </th>
                  {people.map(({ code, name }) => (
                    <th key={code} scope="col" className="px-2 font-semibold">
                      {name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {shares.given.map(({ by, points }) => (
                  <tr key={by} className="border-t border-line">
                    <th scope="row" className="py-1 pr-4 text-left font-normal">
                      {nameOf(by)}
                    </th>
                    {people.map(({ code }) => (
                      <td key={code} className="figures px-2 text-right">
                        {code === by ? '' : (points[code] ?? '–')}
                      </td>
                    ))}
                  </tr>
                ))}
                <tr className="border-t border-line-strong">
                  <th scope="row" className="py-1 pr-4 text-left font-semibold">
                    on average
                  </th>
                  {people.map(({ code }) => (
                    <td key={code} className="figures px-2 text-right font-bold">
                      {shares.average[code] ?? '–'}
                    </td>
                  ))}
                </tr>
              </tbody>
            </table>
          </div>
          {words.map(({ by, words }) => (
            <p key={by} className="mt-1 wrap-anywhere">
              {nameOf(by)}: “{words}”
            </p>
          ))}
        </>
      )}
    </section>
  )
}
