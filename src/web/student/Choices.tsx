import { Choice } from '../kit/Choice.tsx'
import { BOX } from '../kit/Field.tsx'

/** What of the list is shown: all topics or those with room, those that fit a word, with briefs or without. */
export function Choices({
  all,
  withRoom,
  roomOnly,
  onRoomOnly,
  typed,
  onTyped,
  folded,
  onFolded,
  sections,
  section,
  onSection,
}: {
  all: number
  withRoom: number
  roomOnly: boolean
  onRoomOnly: (value: boolean) => void
  typed: string | null
  onTyped: (value: string | null) => void
  /** Whether briefs are folded away; null where no topic has one. */
  folded: boolean | null
  onFolded: (value: boolean) => void
  /** Sections of the groups listed, where there are several. */
  sections: readonly string[]
  section: string
  onSection: (value: string) => void
}) {
  const choice = (pressed: boolean) =>
    `min-h-11 rounded-field border px-2.5 font-semibold sm:px-3.5 ${pressed ? 'border-seat-soft bg-seat-soft text-seat' : 'border-line-strong bg-surface'}`
  return (
    <fieldset className="flex flex-wrap gap-2">
      <legend className="sr-only">Which topics are shown, and how</legend>
      <button
        type="button"
        aria-pressed={!roomOnly}
        className={choice(!roomOnly)}
        onClick={() => onRoomOnly(false)}
      >
        All {all}
      </button>
      <button
        type="button"
        aria-pressed={roomOnly}
        className={choice(roomOnly)}
        onClick={() => onRoomOnly(true)}
      >
        With seats {withRoom}
      </button>
      {typed === null ? (
        <button type="button" className={choice(false)} onClick={() => onTyped('')}>
          Search
        </button>
      ) : (
        <input
          type="search"
          aria-label="Search the topics"
          placeholder="A word of title or brief"
          className={`${BOX} min-h-11 max-w-56`}
          value={typed}
          // biome-ignore lint/a11y/noAutofocus: it appears because its button was pressed
          autoFocus
          onChange={(event) => onTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && onTyped(null)}
          onBlur={() => typed === '' && onTyped(null)}
        />
      )}
      {sections.length > 1 && (
        <Choice aria-label="Section" value={section} onValue={onSection} className="max-w-44">
          <option value="">Every section</option>
          {sections.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </Choice>
      )}
      {folded !== null && (
        <button
          type="button"
          aria-pressed={folded}
          className={choice(folded)}
          onClick={() => onFolded(!folded)}
        >
          Titles only
        </button>
      )}
    </fieldset>
  )
}
