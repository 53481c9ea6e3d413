import type { Criterion } from '../core/marks.ts'

// What the groups of the past term wrote, said and brought. Invented throughout.

export const BENCH_CRITERIA: Criterion[] = [
  {
    id: 'method',
    title: 'Method, told so that it can be repeated',
    points: 5,
    levels: ['thin', 'fair', 'good', 'strong'],
  },
  { id: 'data', title: 'Data and how sure they are', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
  { id: 'reading', title: 'What it means', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
]

export const TALK_CRITERIA: Criterion[] = [
  { id: 'thread', title: 'One could follow', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
  { id: 'answers', title: 'Answers to questions', points: 5, levels: ['thin', 'fair', 'good', 'strong'] },
]

export const TALK_FEEDBACK: readonly string[] = [
  'Everybody spoke, and the jar said the rest.',
  'Well told. Two questions stayed open.',
  'The first half ran long; the answers made up for it.',
]

export const REPORT_LINES: readonly string[] = [
  'We kept three jars side by side for four weeks, at 18, 22 and 26 degrees.',
  'Each was fed at nine in the morning and weighed before and after.',
  '',
  'Day      18 degrees    22 degrees    26 degrees',
  '  1          4.9           4.8           4.7      pH',
  '  7          4.3           4.0           3.8',
  ' 14          4.0           3.7           3.5',
  ' 28          3.8           3.6           3.4',
  '',
  'The warm jar soured first and tasted harsh from the second week on.',
  'At 22 degrees the slope was steady, and all five of us preferred it.',
  'The scale was off by two grams until day 9; we corrected by the log.',
  '',
  'What we would do again: feed by weight, not by spoon.',
  'What we would not: keep the lid loose overnight in the cold room.',
]

export const PLAN_LINES: readonly string[] = [
  'Week 1   set up, label, first weights',
  'Week 2   daily pH, first tasting',
  'Week 3   second tasting, microscope on Thursday',
  'Week 4   pack up, write',
  '',
  'Mornings are shared out; whoever cannot come says so the evening before.',
]

export const FEEDBACK: readonly string[] = [
  'The table carries the argument. Say how you read the pH.',
  'Clear method. One more jar as a control would settle it.',
  'Good that you own up to the scale. The reading follows.',
  'Say how you read the pH.',
  'One more jar as a control would settle it.',
]

export interface SampleSubject {
  title: string
  first: string
  replies: readonly string[]
}

export const SUBJECTS: readonly SampleSubject[] = [
  {
    title: 'Who feeds on which morning',
    first:
      'I can do Mondays and Thursdays before nine. Who takes the others?\n\n- Tuesday\n- Wednesday\n- Friday',
    replies: [
      'Tuesday and Friday are mine. Wednesday I have a seminar until ten.',
      'Then Wednesday is me. I write the weights into the log in the cold room, **not** on paper.',
    ],
  },
  {
    title: 'The scale is off',
    first: 'It shows 2 g with nothing on it. I noted it in the log; correct everything since Monday.',
    replies: ['Done for the first week. The second I cannot read, the page is wet.'],
  },
  {
    title: 'Where do we put the plot?',
    first:
      'One plot for all three jars, or three small ones? I would take one, with the temperature as the line’s shape.',
    replies: [],
  },
]

export const SHARED_SUBJECT = {
  title: 'Before you hand in the bench report',
  text: 'Three things that were missing last time:\n\n1. the unit on **every** axis\n2. who measured what\n3. one sentence on what you would do differently\n\nAsk here if anything is unclear.',
}

export const MESSAGE = {
  subject: 'Thursday is short',
  text: 'The lab closes at four this Thursday. Bring your samples by three, or leave them in the cold room with your group’s name on.',
}

export const NAMES = [
  'Slow Bubbles',
  'The Cold Shelf',
  'Four Lids',
  'Second Rise',
  'Barley and Sons',
  'Loose Lid Club',
]
