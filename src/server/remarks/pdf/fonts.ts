import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import fontkit from '@pdf-lib/fontkit'
import type { PDFDocument } from 'pdf-lib'
import { createFace, type Face } from './typeset.ts'

/** The letters that a work is printed with. */
export interface Fonts {
  body: Face
  small: Face
  bold: Face
  title: Face
}

/** Puts the fonts into a document: of each only the letters that are drawn. */
export async function readFonts(doc: PDFDocument): Promise<Fonts> {
  doc.registerFontkit(fontkit)
  const find = createRequire(import.meta.url)
  const read = async (name: string) =>
    doc.embedFont(await readFile(find.resolve(`dejavu-fonts-ttf/ttf/${name}.ttf`)), {
      subset: true,
      // Letters stand where they are measured, one by one.
      features: { liga: false, kern: false, clig: false },
    })
  const [plain, bold] = await Promise.all([read('DejaVuSans'), read('DejaVuSans-Bold')])
  return {
    body: createFace(plain, 10),
    small: createFace(plain, 8),
    bold: createFace(bold, 8),
    title: createFace(bold, 15),
  }
}
