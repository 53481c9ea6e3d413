/** A field that shortens a list by what is typed. */
export function SearchBox({
  label,
  value,
  onValue,
}: {
  /** What is searched, for those who do not see the list. */
  label: string
  value: string
  onValue: (typed: string) => void
}) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder="Search"
      value={value}
      onChange={({ target }) => onValue(target.value)}
      className="min-h-11 min-w-0 rounded-field border border-line-strong bg-surface px-3"
    />
  )
}
