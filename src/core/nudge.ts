/** What stands in a nudge's text for something of the recipient's or the sheet's, in braces: `{name}`. */
export type NudgeField =
  | 'name'
  | 'first name'
  | 'sheet'
  | 'course'
  | 'closes'
  | 'time left'
  | 'link'
  | 'group'
export const NUDGE_FIELDS = [
  'name',
  'first name',
  'sheet',
  'course',
  'closes',
  'time left',
  'link',
  'group',
] as const satisfies readonly NudgeField[]

const FIELD = /\{([^{}\n]*)\}/g

/** Fields that a text names and that there are not, as they stand in it. */
export function unknownFields(text: string): string[] {
  return [...text.matchAll(FIELD)]
    .map(([whole, name = '']) => ({ whole, name: name.trim().toLowerCase() }))
    .filter(({ name }) => !(NUDGE_FIELDS as readonly string[]).includes(name))
    .map(({ whole }) => whole)
}

/** A text with its fields filled in. Unknown ones stay as they are. */
export function fillFields(text: string, values: Readonly<Record<NudgeField, string>>): string {
  return text.replace(FIELD, (whole, name: string) => {
    const field = name.trim().toLowerCase()
    return (NUDGE_FIELDS as readonly string[]).includes(field) ? values[field as NudgeField] : whole
  })
}

/**
 * Who may get a nudge now: everybody who had fewer than the set number within the last day.
 * @param sent how many nudges each person got within the last day
 */
export function mayNudge(
  people: readonly string[],
  sent: ReadonlyMap<string, number>,
  aDay: number,
): string[] {
  return people.filter((person) => (sent.get(person) ?? 0) < aDay)
}
