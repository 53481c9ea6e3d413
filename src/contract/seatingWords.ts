import type { SeatingConcern, SeatingFault, SeatingRemark } from '../core/seating.ts'

/** What a fault or concern of a seating says to the staff, as one sentence. */
export function seatingWords(
  { code, person, group, others }: SeatingRemark<SeatingConcern | SeatingFault>,
  nameOf: (person: string) => string,
  titleOf: (group: string | null) => string | null,
): string {
  const who = nameOf(person)
  const where = titleOf(group) ?? 'that group'
  const them = others.map(nameOf).join(' and ')
  switch (code) {
    case 'past-limit':
      return `${where} is full: ${who} would get an extra seat.`
    case 'other-section':
      return `${where} belongs to another section than ${who}’s.`
    case 'time-clash':
      return `${who} has another seat at the time of ${where}.`
    case 'kept-apart':
      return `${who} is to be kept apart from ${them}, who sits at ${where}.`
    case 'not-together':
      return `${who} is to be kept together with ${them}, who would sit elsewhere.`
    case 'work-handed-in':
      return `${where} has handed in work. Past hand-ins and marks stay with those who made them; ${who} is not among them, or stays so.`
    case 'person-unknown':
      return 'Somebody among them is not a student of this course any more.'
    case 'person-not-active':
      return `${who} is paused or has left the course.`
    case 'group-unknown':
      return `The group for ${who} is not on the sheet any more.`
    case 'group-not-offered':
      return `${where} is not offered there.`
    case 'not-seated-there':
      return `${who} does not sit at ${where} any more.`
    case 'seated-there-already':
      return `${who} sits at ${where} already.`
    case 'too-many-seats':
      return `${who} holds as many seats already as the house rules let one student hold.`
  }
}
