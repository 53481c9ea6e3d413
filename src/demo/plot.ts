// What the sample courses hold. Invented throughout.

export interface SampleTopic {
  title: string
  brief: string
  place: string
  seats: number | null
  floor: number | null
  /** How much students want it, against the others. */
  wanted: number
  /** When it takes place: days from now, and the wall-clock times. */
  when?: { day: number; from: string; to: string }
  link?: string
}

/** A topic without a place or numbers of its own. */
export const plainTopic = (title: string, brief: string, wanted: number): SampleTopic => ({
  title,
  brief,
  place: '',
  seats: null,
  floor: null,
  wanted,
})

const topic = (
  title: string,
  brief: string,
  place: string,
  wanted: number,
  seats: number | null = null,
): SampleTopic => ({
  title,
  brief,
  place,
  seats,
  floor: seats === 3 ? 2 : null,
  wanted,
})

export const BENCHES: SampleTopic[] = [
  topic('Sourdough, wild yeast', 'Keep and compare three starters over four weeks.', 'Bench 1', 9),
  topic('Kimchi and lactic sours', 'Salt levels, temperature and the first sour week.', 'Bench 2', 7),
  topic('Kombucha mats', 'Grow, weigh and image a mat; track pH daily.', 'Bench 3', 8),
  topic('Miso and koji', 'Koji on barley; sample at 2, 4 and 8 weeks.', 'Cold room', 8),
  topic(
    'Tempeh',
    'Incubation curves; needs the **warm cabinet**, so plan for two early mornings.',
    'Warm cabinet',
    3,
    3,
  ),
  topic('Vinegar mothers', 'Acidity from cider and from rice wine.', 'Bench 4', 4),
  topic('Washed-rind cheese', 'Rind ecology under the microscope.', 'Bench 1', 5, 3),
  topic('Cocoa heaps', 'Small-heap turning and temperature logs.', 'Bench 2', 6),
  topic('Kefir grains', 'Milk and water grains, growth ratios.', 'Bench 3', 4),
  topic('Ginger bug sodas', 'Carbonation without a burst bottle.', 'Cold room', 3),
  topic('Garum and fish sauce', 'Salt, time and free amino acids.', 'Warm cabinet', 1),
  topic('Cultured butter', 'Cream cultures and diacetyl by taste panel.', 'Bench 4', 3),
]

export const TASTING: SampleTopic[] = [
  'Bitter end',
  'Sour thresholds',
  'Umami pairs',
  'Salt reduction',
  'Texture by ear',
  'Off-flavours, first set',
  'Off-flavours, second set',
  'Aroma memory',
  'Blind ciders',
].map((title, i) =>
  topic(title, `Panel of four with one leader; session ${i + 1} in the tasting room.`, 'Tasting room', 5),
)

export const SAFETY: SampleTopic[] = [
  'Cold room',
  'Autoclaves',
  'Gas bottles',
  'Glass and sharps',
  'Spill kits',
  'Fume hood',
  'Eye wash',
  'Warm cabinets',
  'Waste stream',
  'Fire doors',
].map((title) => topic(title, 'Walk it, photograph it, write half a page.', 'Main lab', 5))

export const FIELD: SampleTopic[] = [
  topic('Soy cellar', 'A morning among the vats; bring warm clothes.', 'Soy cellar', 5),
  topic('Maltings', 'Steeping floor and kiln.', 'Maltings', 5),
  topic('Dairy cave', 'Rind washing with the affineurs.', 'Dairy cave', 5),
]

export const PANELS: SampleTopic[] = [
  'Carbonated waters',
  'Crisps by sound',
  'Dark chocolates',
  'Tomato varieties',
  'Oat drinks',
  'Honey origins',
  'Plain yogurts',
].map((title, i) => ({
  ...topic(title, 'Design, run and report one triangle test with 24 tasters.', `Booth row ${i + 1}`, 7 - i),
  when: {
    day: 9 + Math.floor(i / 2),
    from: i % 2 === 0 ? '10:00' : '13:00',
    to: i % 2 === 0 ? '12:00' : '15:00',
  },
  link: `https://meet.brinemoor.example/panel-${i + 1}`,
}))

export const AROMA: SampleTopic[] = [
  'Green and grassy',
  'Roasted',
  'Floral',
  'Citrus',
  'Phenolic',
  'Spicy',
  'Dairy',
  'Earthy',
].map((title) => topic(title, 'Build one spoke of the wheel from twelve reference jars.', 'Aroma library', 5))

export const BENCH_INSTRUCTIONS = `Each group keeps **one culture** for six weeks and shows it at the last session.

- Choose by what you want to learn, not by who is quick.
- The warm cabinet and the cold room are small: those groups have fewer seats.
- You can move until the window closes.`
