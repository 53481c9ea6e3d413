import { type Client, type Harness, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

/** A small course of two lab sections whose groups hold two each, and a student of the first. */
export interface Benches {
  harness: Harness
  small(students?: number): Promise<School>
  tue(n: number): Client
}

export async function startBenches(): Promise<Benches> {
  const harness = await startHarness()
  return {
    harness,
    small: (students = 6) =>
      setUpSchool(harness, {
        sections: ['Tue lab', 'Wed lab'],
        students: { 'Tue lab': students, 'Wed lab': students },
        topics: ['Tempeh', 'Kefir'],
        seats: 2,
      }),
    tue: (n) => harness.as(studentEmail('Tue lab', n)),
  }
}
