import { invitationNames } from '../../core/invitation.ts'
import type { HouseRules } from '../../core/rules.ts'
import type { SheetState } from '../../core/window.ts'

/** What a student has to know of the house rules before taking a seat, in sentences that hold in the sheet's state. */
export function rulesWords(rules: HouseRules, state: SheetState): string[] {
  if (state === 'archived') return ['The sheet is archived: nothing on it changes any more.']
  if (rules.road === 'made')
    return [
      'Your instructor makes the groups: nobody takes, changes or gives up a seat here.',
      namesWords(rules.names, true),
    ]
  const over = state === 'closed'
  if (rules.road === 'wished')
    return [...(over ? [] : wishRules(rules)), ...swapWords(rules), namesWords(rules.names, over)]
  return [
    changingWords(rules, over),
    ...(rules.seatsEach > 1 && !over
      ? [`You may have up to ${rules.seatsEach} seats, none at the same time as another.`]
      : []),
    namesWords(rules.names, over),
    ...(over ? [] : lineWords(rules)),
    ...(over ? [] : convenerWords(rules)),
  ]
}

/** What is asked of whoever ranks. */
export function rankWords({ wishesLeast, wishesMost }: HouseRules): string {
  const many =
    wishesLeast === wishesMost ? String(wishesLeast) : `${wishesLeast} or more, ${wishesMost} at most`
  return `Put what you want in order: ${many}. Being early makes no difference; nobody sees your order but staff.`
}

/** How seats are given by wishes, before they are. */
function wishRules({ cannotMost, wishWorth }: HouseRules): string[] {
  return [
    'Seats are given by everybody’s wishes after the close. Until then you can change your order.',
    ...(cannotMost > 0
      ? [
          `${cannotMost === 1 ? 'One topic' : `Up to ${cannotMost} topics`} you may leave out as impossible, with a reason that staff see.`,
        ]
      : []),
    ...(wishWorth !== 'nothing' ? ['How much topics are wanted is counted once an hour.'] : []),
  ]
}

function swapWords({ swaps, seatsEach }: HouseRules): string[] {
  if (swaps === 'no') return []
  return [
    `Once seats are given ${seatsEach === 1 ? 'you' : 'whoever has one seat'} can say what ${seatsEach === 1 ? 'you' : 'they'} would rather have. A swap is made only where everybody in it accepts, so nobody loses a seat that they like better.`,
  ]
}

function changingWords({ changing, seatsEach }: HouseRules, over: boolean): string {
  const seat = seatsEach === 1 ? 'your seat' : 'your seats'
  if (changing === 'by-asking')
    return over
      ? 'The window is closed. A seat changes only by asking: you say why, your instructor decides.'
      : 'Once taken, a seat changes only by asking: you say why, your instructor decides.'
  if (over) return `The window is closed: you can no longer take, change or give up ${seat} yourself.`
  if (changing === 'never') return 'Choose with care: once taken, a seat does not change.'
  return seatsEach === 1
    ? 'You take one seat, and can move until the window closes.'
    : 'You can move from seat to seat until the window closes.'
}

function namesWords(names: HouseRules['names'], over: boolean): string {
  switch (names) {
    case 'mates':
      return 'Those who sit with you see your name and mail address; others see only how many sit there.'
    case 'seated':
      return 'Everybody of the course who has a seat sees who sits where, you among them.'
    case 'after-close':
      return over
        ? 'Everybody of the course sees who sits where.'
        : 'Once the window has closed, everybody of the course sees who sits where; until then, only how many.'
    case 'everyone':
      return 'Everybody of the course sees who sits where, you among them.'
    case 'nobody':
      return 'No names are shown to students, not even in your own group; only how many sit there.'
  }
}

function lineWords({ fullGroups, otherLines, seatsEach }: HouseRules): string[] {
  if (fullGroups === 'full') return []
  const move = seatsEach === 1 ? ' A seat that you have by then is given up for it.' : ''
  const others = otherLines === 'leave' ? ' You then leave the other lines.' : ''
  return [
    `You can wait in line for a full group: when it is your turn you are seated there at once, and told by mail.${move}${others}`,
  ]
}

function convenerWords({ convener, invitations, convenerMay, names }: HouseRules): string[] {
  const who = {
    first: ['Whoever sits down first in a group answers for it.'],
    lot: ['For each group, somebody who sits there is drawn by lot to answer for it.'],
    named: ['Your instructor names who answers for a group.'],
    none: [],
  }[convener]
  if (convener === 'none') return who
  // Where names are hidden in a group, nobody there can be seated or taken out by another.
  const more =
    convenerMay === 'no' || names === 'nobody'
      ? []
      : [
          convenerMay === 'seat'
            ? 'They can also seat somebody who has no group; you are told by mail, and can move.'
            : 'They can also seat somebody who has no group, and take members out: in the first three days at once, later if the member agrees. You are told by mail.',
        ]
  if (invitations === 'no') return [...who, ...more]
  return [
    ...who,
    ...more,
    `Whoever answers for a group sees who has no group yet, and can offer them a free seat${invitationNames(names, 'open') ? '' : ', without being named'}.`,
  ]
}
