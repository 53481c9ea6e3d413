import { Readable } from 'node:stream'
import type { Instant } from '../core/instant.ts'
import type { Lot } from '../core/lot.ts'
import type { Disk } from '../server/files/disk.ts'
import type { Enrolment } from '../server/roster/store.ts'
import type { Sheet } from '../server/sheets/store.ts'
import type { Group } from '../server/sheets/topicStore.ts'
import type { Stores } from '../server/stores.ts'
import { makePng } from './papers.ts'

/** What the making of a past sheet's work goes on. */
export interface Parts {
  stores: Stores
  disk: Disk
  sheet: Sheet
  /** Who teaches it. */
  owner: Enrolment
  tutors: readonly Enrolment[]
  now: Instant
  lot: Lot
}

/** A group with those who sit in it. */
export interface Bench {
  group: Group
  title: string
  members: readonly Enrolment[]
}

/** Puts a file on the disk as an upload would, and gives its id. */
export async function keep(
  { stores, disk, sheet }: Parts,
  { name, type, bytes, by }: { name: string; type: string; bytes: Buffer; by: Enrolment },
  at: Instant,
): Promise<number> {
  await disk.append('sample', Readable.from([bytes]), bytes.length)
  const fields = {
    sheet_id: sheet.id,
    name,
    size: bytes.length,
    type,
    by_id: by.id,
    digest: await disk.digestOf('sample'),
    stored: disk.keep('sample'),
  }
  return stores.files.add(fields, at).id
}

/** Three curves that fall, as the pH of three jars does. */
export function plot(seed: number): Buffer {
  const [width, height] = [480, 300]
  const curves = [0.35, 0.55, 0.8].map(
    (speed, n) => (x: number) =>
      60 + 36 * n + (150 - 36 * n) * (1 - Math.exp((-x * speed * (3 + (seed % 4))) / width)),
  )
  const colours = [
    [63, 53, 102],
    [196, 58, 14],
    [66, 112, 44],
  ] as const
  return makePng(width, height, (x, y) => {
    const hit = curves.findIndex((curve) => Math.abs(curve(x) - y) < 2)
    if (hit >= 0) return colours[hit] ?? [0, 0, 0]
    if (x < 2 || y > height - 3) return [34, 28, 53]
    return x % 60 === 0 || y % 50 === 0 ? [225, 222, 234] : [255, 255, 255]
  })
}
