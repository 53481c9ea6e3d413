import type { ComposeView } from '../../../contract/sheets.ts'

/** Why a sheet cannot be published yet, each in a sentence that says what to do; the server says no to the same. */
export function notReady(
  { topics, closesAt, rules }: Pick<ComposeView, 'topics' | 'closesAt' | 'rules'>,
  now: string,
): string[] {
  const wrong: string[] = []
  if (rules.road === 'made')
    return topics.length === 0 ? ['Make the groups first, in Settle: there are none yet.'] : []
  if (topics.length === 0) wrong.push('Add a topic: there is nothing to choose yet.')
  if (closesAt === null) wrong.push('Say when it closes.')
  else if (closesAt <= now) wrong.push('The closing time has passed. Choose a later one.')
  return wrong
}

/** Titles that more than one topic bears, whatever their case. */
export function sameTitles({ topics }: Pick<ComposeView, 'topics'>): string[] {
  const seen = new Set<string>()
  const twice = new Map<string, string>()
  for (const { title } of topics) {
    const key = title.trim().toLowerCase()
    if (seen.has(key)) twice.set(key, title)
    seen.add(key)
  }
  return [...twice.values()]
}
