import type { WishTopic } from '../../../contract/wishes.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { saySlot } from '../../../core/zone.ts'

/** What is to be known of a topic beside its title: seats, how much it is wanted where that is shown, when and where. */
export function topicWords({ seats, demand, slots }: WishTopic, zone: string): string {
  const room = seats === NO_LIMIT ? 'no limit' : seats === 1 ? '1 seat' : `${seats} seats`
  const wanted = demand === null ? [] : [`${demand.first} want it first`]
  const [only] = slots.length === 1 ? slots : []
  const when = only?.startsAt ? [saySlot(only.startsAt, only.endsAt, zone)] : []
  const where = only?.place ? [only.place] : []
  return [room, ...wanted, ...when, ...where].join(' · ')
}
