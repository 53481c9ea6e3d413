/**
 * The columns in which groups stand: one for each section, and one for groups that are for all of them, as null. Where
 * no section has a group of its own there is that one alone.
 */
export function columnsOf<Section extends { code: string }>(
  sections: readonly Section[],
  groups: readonly { section: string | null }[],
): readonly (Section | null)[] {
  if (sections.length === 0) return [null]
  if (groups.every(({ section }) => section !== null)) return sections
  return groups.every(({ section }) => section === null) ? [null] : [...sections, null]
}
