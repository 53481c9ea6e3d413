import { expect, it } from 'vitest'
import { tally } from './tally.ts'

const input = {
  sections: [
    { code: 'tue', name: 'Tue lab' },
    { code: 'wed', name: 'Wed lab' },
  ],
  people: [
    { code: 'ada', section: 'tue' },
    { code: 'bao', section: 'tue' },
    { code: 'cem', section: 'wed' },
  ],
  groups: [
    { code: 'g1', section: 'tue', seats: 1, floor: 1 },
    { code: 'g2', section: 'wed', seats: 3, floor: 2 },
  ],
  seats: [{ group: 'g1', person: 'ada' }],
}

it('counts who has no group, per section, and how the groups stand', () => {
  expect(tally(input)).toMatchObject({
    students: 3,
    noGroup: ['bao', 'cem'],
    sections: [
      { name: 'Tue lab', students: 2, left: 1 },
      { name: 'Wed lab', students: 1, left: 1 },
    ],
    seatsOpen: 3,
    groupsFull: 1,
    // The second is empty, and an empty group is not too small.
    underFloor: 0,
  })
})

it('does not count open seats below nothing where a group is past its limit', () => {
  const seats = ['ada', 'bao'].map((person) => ({ group: 'g1', person }))
  expect(tally({ ...input, seats })).toMatchObject({ seatsOpen: 3, groupsFull: 1, noGroup: ['cem'] })
})

it('lets the seat of somebody who does not count take room without counting for anybody', () => {
  const standing = tally({ ...input, seats: [{ group: 'g1', person: 'departed' }] })
  expect(standing.noGroup).toHaveLength(3)
  expect(standing.groupsFull).toBe(1)
})

it('counts groups in which people sit, but fewer than can work', () => {
  const seats = [...input.seats, { group: 'g2', person: 'cem' }]
  expect(tally({ ...input, seats }).underFloor).toBe(1)
})
