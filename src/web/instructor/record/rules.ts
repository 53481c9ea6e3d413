import { AIMS } from '../../../contract/wishWords.ts'
import type { HouseRules, NumberRule } from '../../../core/rules.ts'

type Chosen = Exclude<keyof HouseRules, NumberRule>

/** One house rule as a sentence with its choices; each choice says what students will notice. */
export interface RuleWords<Rule extends Chosen = Chosen> {
  rule: Rule
  label: string
  /** Whether it makes a difference with the other rules as they stand; always, when left out. */
  asked?: (rules: HouseRules) => boolean
  choices: { value: HouseRules[Rule]; label: string; notice: string }[]
}

/** Rules that make a difference only where students take seats as they come. */
const choosing = ({ road }: HouseRules) => road === 'chosen'
/** Rules that make a difference where students say what they want, one way or the other. */
const windowed = ({ road }: HouseRules) => road !== 'made'
/** Rules that make a difference only where students rank topics. */
const wishing = ({ road }: HouseRules) => road === 'wished'

const rule = <Rule extends Chosen>(words: RuleWords<Rule>) => words as unknown as RuleWords

/** The house rules in the order in which they are shown. The first choice of each is the careful one. */
export const RULES: readonly RuleWords[] = [
  rule({
    rule: 'road',
    label: 'Groups are',
    choices: [
      {
        value: 'chosen',
        label: 'chosen as they come',
        notice: 'Students take seats as they come, within the window.',
      },
      {
        value: 'wished',
        label: 'given by wishes',
        notice:
          'Students rank topics within the window; being early makes no difference. Seats are given after the close.',
      },
      {
        value: 'made',
        label: 'made by the instructor',
        notice: 'Students do not choose. They see their group once it is published; there is no window.',
      },
    ],
  }),
  rule({
    rule: 'aim',
    asked: wishing,
    label: 'What comes first',
    choices: AIMS.map(({ aim, label, notice }) => ({ value: aim, label, notice })),
  }),
  rule({
    rule: 'wishWorth',
    asked: wishing,
    label: 'While they rank, students see',
    choices: [
      {
        value: 'nothing',
        label: 'nothing of each other’s wishes',
        notice: 'They rank what they want, and cannot guess from others what might be free.',
      },
      {
        value: 'demand',
        label: 'how much each topic is wanted',
        notice: 'How many want it first, beside its seats; gathered once an hour, and never who.',
      },
      {
        value: 'odds',
        label: 'that, and their own chances',
        notice:
          'Besides, how likely each would come to which wish, over many lots under the wishes there are.',
      },
    ],
  }),
  rule({
    rule: 'swaps',
    asked: wishing,
    label: 'Seats that were given',
    choices: [
      {
        value: 'no',
        label: 'are not swapped',
        notice: 'What was given stays. You can still seat people by hand, or open free seats for moves.',
      },
      {
        value: 'offered',
        label: 'can be swapped',
        notice:
          'Students say what they would rather have; where several would all be better off, a swap is offered to them, and made once all accept.',
      },
    ],
  }),
  rule({
    rule: 'changing',
    asked: choosing,
    label: 'Changing seats',
    choices: [
      {
        value: 'until-close',
        label: 'until the window closes',
        notice: 'They move by themselves; the old seat is kept until the new one is won.',
      },
      {
        value: 'by-asking',
        label: 'only by asking',
        notice: 'They send a request with a reason; you grant or decline it on Run.',
      },
      {
        value: 'never',
        label: 'never',
        notice: 'The page says before they choose that a seat does not change.',
      },
    ],
  }),
  rule({
    rule: 'names',
    label: 'Names are shown to',
    choices: [
      {
        value: 'mates',
        label: 'group mates only',
        notice:
          'Others see how many sit there, not who. Group mates see each other’s names and mail addresses.',
      },
      {
        value: 'seated',
        label: 'everyone once seated',
        notice: 'Whoever has a seat sees who sits where; before that, only counts.',
      },
      {
        value: 'after-close',
        label: 'everyone after the close',
        notice:
          'Only counts until the window closes, then everybody’s names. Until then invitations name nobody either.',
      },
      {
        value: 'everyone',
        label: 'everyone',
        notice: 'They see who sits where before they choose, and can follow friends.',
      },
      {
        value: 'nobody',
        label: 'nobody (counts only)',
        notice: 'Not even group mates see each other’s names here.',
      },
    ],
  }),
  rule({
    rule: 'offers',
    asked: windowed,
    label: 'A topic offers seats to',
    choices: [
      { value: 'section', label: 'its own section', notice: 'Groups of other sections are not listed.' },
      {
        value: 'course',
        label: 'the whole course',
        notice: 'Groups of every section are listed, with the section’s name.',
      },
    ],
  }),
  rule({
    rule: 'fullGroups',
    asked: choosing,
    label: 'Full groups',
    choices: [
      {
        value: 'full',
        label: 'are simply full',
        notice: 'They choose another topic, or look in again later.',
      },
      {
        value: 'line',
        label: 'keep a waiting line',
        notice: 'They can wait; whoever is first in line is seated when a seat comes free, and told by mail.',
      },
    ],
  }),
  rule({
    rule: 'otherLines',
    label: 'Other lines, once a line seats them,',
    asked: ({ road, fullGroups }) => road === 'chosen' && fullGroups === 'line',
    choices: [
      {
        value: 'leave',
        label: 'are left',
        notice: 'A seat won ends their waiting everywhere else.',
      },
      {
        value: 'keep',
        label: 'are kept',
        notice: 'They go on waiting elsewhere; the next seat they win is a move, or one more.',
      },
    ],
  }),
  rule({
    rule: 'convener',
    label: 'Convener',
    choices: [
      {
        value: 'first',
        label: 'first to sit down',
        notice: 'Whoever took the first seat answers for the group.',
      },
      {
        value: 'lot',
        label: 'drawn by lot',
        notice: 'Drawn from the lot number, so that anybody can repeat the draw.',
      },
      {
        value: 'named',
        label: 'named by the instructor',
        notice: 'Nobody, until you name one of the members on Run.',
      },
      { value: 'none', label: 'none', notice: 'Nobody answers for a group.' },
    ],
  }),
  rule({
    rule: 'invitations',
    label: 'Invitations',
    asked: ({ road, convener }) => road === 'chosen' && convener !== 'none',
    choices: [
      { value: 'no', label: 'none', notice: 'Everybody finds a group by themselves.' },
      {
        value: 'convener',
        label: 'by the convener',
        notice:
          'Conveners see who of their section has no group, and offer them a free seat; the invited accept or decline. They read who invites them, except where names are shown to nobody, or after the close.',
      },
    ],
  }),
  rule({
    rule: 'convenerMay',
    label: 'Conveners besides',
    asked: ({ road, convener }) => road === 'chosen' && convener !== 'none',
    choices: [
      {
        value: 'no',
        label: 'do nothing more',
        notice: 'Who sits in a group is up to each of them, and to you.',
      },
      {
        value: 'seat',
        label: 'seat people',
        notice:
          'Conveners seat people of their section who have no group, without asking them, while the sheet is open. Each is told by mail, and can move on.',
      },
      {
        value: 'both',
        label: 'seat people and take them out',
        notice:
          'They also take members out: at once in the first three days, later only once the member agrees. Each is told; the ledger keeps it, and you can undo it.',
      },
    ],
  }),
  rule({
    rule: 'atClose',
    asked: windowed,
    label: 'When the window closes',
    choices: [
      {
        value: 'leave',
        label: 'it is left as is',
        notice: 'Those without a group stay listed for you on Run; you seat them by hand or by a plan.',
      },
      {
        value: 'draft',
        label: 'a plan for the rest is drafted',
        notice: 'It waits for you under Settle, and you are told by mail. Students notice nothing yet.',
      },
      {
        value: 'seat',
        label: 'the rest are seated by plan',
        notice:
          'At once and evenly, groups brought to their floor first; nobody who sits is moved. Everybody seated is told by mail.',
      },
    ],
  }),
  rule({
    rule: 'late',
    label: 'Late enrolments',
    choices: [
      {
        value: 'leave',
        label: 'are left to the instructor',
        notice: 'Whoever joins after the close waits for you on Run.',
      },
      {
        value: 'seat',
        label: 'are seated by plan',
        notice:
          'Whoever joins after the close is seated within seconds, where there is room, and told by mail.',
      },
    ],
  }),
  rule({
    rule: 'lateFrom',
    label: 'Late is who joins',
    asked: ({ late }) => late === 'seat',
    choices: [
      {
        value: 'close',
        label: 'after the close',
        notice: 'While the sheet is open, newcomers choose like everybody else.',
      },
      {
        value: 'opening',
        label: 'after the opening',
        notice:
          'A newcomer has a seat at once, also while the sheet is open, and can move from it like everybody else.',
      },
    ],
  }),
  rule({
    rule: 'lateFull',
    label: 'Where no seat is free',
    asked: ({ late }) => late === 'seat',
    choices: [
      { value: 'wait', label: 'they wait for you', notice: 'You are told by mail, and seat them on Run.' },
      {
        value: 'extra',
        label: 'the smallest group gets one more',
        notice:
          'It gets an extra seat. You are told once a day who came where, and can undo each in the ledger.',
      },
      {
        value: 'group',
        label: 'a further group is begun',
        notice:
          'With the sheet’s limit and what all groups have, filled before the next is begun. You are told once a day, and can undo it under Plans in Settle.',
      },
    ],
  }),
]

/** The choice of a rule that holds, in its words. */
export function chosenWords(name: Chosen, rules: HouseRules): RuleWords['choices'][number] | undefined {
  return RULES.find(({ rule }) => rule === name)?.choices.find(({ value }) => value === rules[name])
}
