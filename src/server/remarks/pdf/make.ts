import { readFile, stat } from 'node:fs/promises'
import { PDFDocument } from 'pdf-lib'
import { shownAs } from '../../../core/files.ts'
import { isUtf8 } from '../../files/text.ts'
import { createFlow, type Flow, SOFT } from './flow.ts'
import { type Fonts, readFonts } from './fonts.ts'
import type { PdfJob, PrintedPart, PrintedRemark } from './job.ts'
import { addPages, addPicture, embed } from './pages.ts'
import { addText } from './text.ts'

/** Bytes of one file, and of all of them together, that are put in. */
const MOST = { file: 64 * 1024 * 1024, all: 160 * 1024 * 1024 }
/** Characters of a text that are put in. */
const MOST_TEXT = 200_000

/**
 * Makes a PDF of a work with its remarks: what was written with the remarks beside it, each picture, and the pages of
 * each PDF with its places marked, followed by what is said there. What cannot be put in is named, with its remarks.
 * @param most bytes of one file, and of all together, that are put in
 * @returns the bytes of the PDF
 */
export async function makePdf(job: PdfJob, most = MOST): Promise<Uint8Array> {
  const doc = await PDFDocument.create()
  doc.setTitle(`${job.title}: ${job.owner}`)
  doc.setProducer('Haplon')
  const fonts = await readFonts(doc)
  const flow = createFlow(doc, fonts)
  flow.say(job.title, fonts.title)
  for (const line of job.under) flow.say(line, fonts.small, SOFT)
  const missing = [job.title, ...job.under, ...job.parts.flatMap(said)].some(
    (text) => !fonts.body.hasAll(text),
  )
  if (missing)
    flow.say('Signs for which the font of this file has no letter are drawn as □.', fonts.small, SOFT)
  flow.gap(12)
  if (job.parts.length === 0) flow.say('There is nothing in this version but its links.', fonts.body)
  const room = { ...most }
  for (const part of job.parts) await addPart(doc, flow, fonts, part, room)
  return doc.save()
}

const said = (part: PrintedPart): string[] => [
  part.text,
  part.name ?? '',
  ...part.remarks.flatMap(({ about, words, answers }) => [about, words, ...answers]),
]

async function addPart(
  doc: PDFDocument,
  flow: Flow,
  fonts: Fonts,
  part: PrintedPart,
  room: typeof MOST,
): Promise<void> {
  if (part.path === null) return addText(flow, fonts, part.text, part.remarks)
  const failed = (why: string) => {
    flow.gap(12)
    flow.say(`${part.name}: ${why}`, fonts.body)
    flow.list(part.remarks, placeWords)
  }
  // Looked at before it is read: what is put in stays in memory until the whole is written.
  const size = await stat(part.path).then(
    (found) => found.size,
    () => null,
  )
  if (size !== null && size > Math.min(room.file, room.all))
    return failed('it is too large to be put in; look at the file itself.')
  room.all -= size ?? 0
  const bytes = await readFile(part.path).catch(() => null)
  if (bytes === null) return failed('it cannot be read.')
  switch (shownAs(part.type)) {
    case 'text': {
      if (!(await isUtf8(part.path))) return failed('it is not a text that can be read here.')
      if (!flow.isFresh()) flow.newPage()
      flow.say(part.name ?? '', fonts.bold)
      // As a browser reads it: a mark of the byte order is no letter.
      const text = new TextDecoder().decode(bytes)
      addText(flow, fonts, text.slice(0, MOST_TEXT), part.remarks)
      if (text.length > MOST_TEXT) flow.say('There is more in the file itself.', fonts.small, SOFT)
      return
    }
    case 'pages': {
      const why = await addPages(doc, fonts, bytes, part.remarks)
      if (why !== null) return failed(why)
      flow.newPage()
      flow.say(`Remarks on ${part.name}`, fonts.bold)
      if (part.remarks.length === 0) flow.say('None.', fonts.small)
      flow.list(part.remarks, placeWords)
      return
    }
    case 'picture': {
      const image = await embed(doc, bytes, part.type)
      if (image === null) return failed('it cannot be put in here; look at the file itself.')
      if (!flow.isFresh()) flow.newPage()
      flow.say(part.name ?? '', fonts.bold)
      flow.gap(6)
      await addPicture(flow, fonts, image, bytes, part.remarks)
      flow.list(part.remarks)
      return
    }
    default:
      return failed('it is not shown on pages; look at the file itself.')
  }
}

const placeWords = ({ place }: PrintedRemark) => (place.kind === 'passage' ? '' : `page ${place.page}`)
