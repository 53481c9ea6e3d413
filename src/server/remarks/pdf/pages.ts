import exifr from 'exifr'
import {
  concatTransformationMatrix,
  drawObject,
  PDFDocument,
  type PDFImage,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
} from 'pdf-lib'
import type { Area, Spot } from '../../../core/remarks.ts'
import { badge, type Flow, LINE, MARGIN, MARK, WIDTH } from './flow.ts'
import type { Fonts } from './fonts.ts'
import type { PrintedRemark } from './job.ts'
import { boxOn, type PageBox, pointOn, turnedPicture } from './place.ts'

/** Pages of one file, and pixels of one picture, that are put in. */
const MOST_PAGES = 500
const MOST_PIXELS = 50_000_000

/**
 * The pages of a PDF with its places marked.
 * @returns why they could not be put in; null where they were
 */
export async function addPages(
  doc: PDFDocument,
  fonts: Fonts,
  bytes: Buffer,
  remarks: readonly PrintedRemark[],
): Promise<string | null> {
  let from: PDFDocument
  try {
    from = await PDFDocument.load(bytes, { updateMetadata: false })
  } catch (error) {
    return error instanceof Error && /encrypt/i.test(error.message)
      ? 'it is locked with a password, so its pages cannot be put in; look at the file itself.'
      : 'its pages cannot be read; look at the file itself.'
  }
  try {
    const count = from.getPageCount()
    if (count > MOST_PAGES) return `it has ${count} pages, too many to be put in; look at the file itself.`
    for (const [i, page] of (await doc.copyPages(from, from.getPageIndices())).entries()) {
      doc.addPage(page)
      const here = remarks.flatMap((one) =>
        one.place.kind !== 'passage' && one.place.page === i + 1 ? [{ n: one.n, place: one.place }] : [],
      )
      if (here.length === 0) continue
      const { x, y, width, height } = page.getCropBox()
      const turned = ((page.getRotation().angle % 360) + 360) % 360
      for (const { n, place } of here) markPlace(page, fonts, { x, y, width, height, turned }, n, place)
    }
  } catch {
    return 'its pages cannot be read; look at the file itself.'
  }
  return null
}

function markPlace(page: PDFPage, fonts: Fonts, box: PageBox, n: number, place: Area | Spot): void {
  if (place.kind === 'area')
    page.drawRectangle({
      ...boxOn(box, place),
      borderColor: LINE,
      borderWidth: 1.5,
      color: MARK,
      opacity: 0.25,
      borderOpacity: 1,
    })
  // Beside an area, so that it covers nothing of it.
  const at = pointOn(box, place.kind === 'area' ? { x: Math.max(0.012, place.x - 0.012), y: place.y } : place)
  badge(page, fonts, n, at.x, at.y, box.turned)
}

/** A picture as PDF takes it; null for kinds that it does not know, and for what is broken or too large. */
export async function embed(doc: PDFDocument, bytes: Buffer, type: string): Promise<PDFImage | null> {
  try {
    if (type === 'image/jpeg') return await doc.embedJpg(bytes)
    if (type !== 'image/png') return null
    // Unpacking it takes some bytes for each of its pixels: width and height stand in its first chunk.
    if (bytes.readUInt32BE(16) * bytes.readUInt32BE(20) > MOST_PIXELS) return null
    return await doc.embedPng(bytes)
  } catch {
    return null
  }
}

export async function addPicture(
  flow: Flow,
  fonts: Fonts,
  image: PDFImage,
  bytes: Buffer,
  remarks: readonly PrintedRemark[],
): Promise<void> {
  const way = (await exifr.orientation(bytes).catch(() => undefined)) ?? 1
  const onSide = way >= 5 && way <= 8
  const [wide, high] = onSide ? [image.height, image.width] : [image.width, image.height]
  const scale = Math.min((WIDTH - 2 * MARGIN) / wide, (flow.y() - MARGIN) / high)
  const [width, height] = [wide * scale, high * scale]
  const page = flow.page()
  const bottom = flow.y() - height
  const [a, b, c, d, e, f] = turnedPicture(way)
  const name = page.node.newXObject('Picture', image.ref)
  page.pushOperators(
    pushGraphicsState(),
    concatTransformationMatrix(width, 0, 0, height, MARGIN, bottom),
    concatTransformationMatrix(a, b, c, d, e, f),
    drawObject(name),
    popGraphicsState(),
  )
  const box: PageBox = { x: MARGIN, y: bottom, width, height, turned: 0 }
  for (const { n, place } of remarks) if (place.kind !== 'passage') markPlace(page, fonts, box, n, place)
  flow.gap(height + 8)
}
