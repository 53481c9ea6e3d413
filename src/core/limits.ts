/** How long texts and numbers may be. One place, so that field, request and message say the same figure. */
export const LIMITS = {
  title: 120,
  brief: 4_000,
  instructions: 20_000,
  place: 120,
  link: 500,
  reason: 1_000,
  personName: 120,
  studentNumber: 40,
  sectionName: 60,
  sections: 24,
  topics: 200,
  /** Columns of a roster file that are kept as attributes, and letters of one of their values. */
  attributes: 6,
  attribute: 60,
  /** Seats in one group. */
  seats: 500,
  /** Lines in one roster file, header not counted. */
  rosterLines: 5_000,
  /** Characters in one roster file. */
  rosterText: 1_000_000,
} as const
