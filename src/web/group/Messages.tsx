import type { GroupPage } from '../../contract/groups.ts'
import { sayInstant } from '../../core/zone.ts'

/** Messages that went to everybody of the group, newest first. */
export function Messages({ page }: { page: GroupPage }) {
  const { messages, sheet } = page
  if (messages.length === 0) return null
  return (
    <section aria-labelledby="messages" className="rounded-card border border-line bg-surface">
      <h2 id="messages" className="px-4 py-3 text-lg">
        Written to all
      </h2>
      <ul>
        {messages.map(({ code, by, subject, text, sentAt, reached }) => (
          <li key={code} className="border-t border-line px-4 py-2">
            <details>
              <summary className="flex min-h-9 cursor-pointer flex-wrap items-center justify-between gap-x-4">
                <span className="font-semibold">{subject}</span>
                <span className="figures text-sm text-soft">
                  {by}, {sayInstant(sentAt, sheet.zone)} · to {reached}
                </span>
              </summary>
              <p className="py-1 whitespace-pre-line wrap-anywhere">{text}</p>
            </details>
          </li>
        ))}
      </ul>
    </section>
  )
}
