import { crc32, deflateSync } from 'node:zlib'

/** Lines that fit on one page of the sample's PDFs. */
const LINES_A_PAGE = 44

/**
 * A PDF (ISO 32000-1) of plain lines on A4 pages, in one of the fonts that every reader has. Letters outside of Latin-1
 * are left out.
 */
export function makePdf(title: string, lines: readonly string[]): Buffer {
  const pages: string[][] = []
  for (let i = 0; i < Math.max(1, lines.length); i += LINES_A_PAGE)
    pages.push(lines.slice(i, i + LINES_A_PAGE))
  const escaped = (text: string) => text.replace(/[^\x20-\xff]/g, '').replace(/[\\()]/g, '\\$&')
  const objects: string[] = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    `<< /Type /Pages /Count ${pages.length} /Kids [${pages.map((_, i) => `${4 + 2 * i} 0 R`).join(' ')}] >>`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>',
  ]
  pages.forEach((page, i) => {
    const heading = i === 0 ? `BT /F1 20 Tf 60 770 Td (${escaped(title)}) Tj ET\n` : ''
    const body = page.map((line) => `(${escaped(line)}) Tj T*`).join('\n')
    const drawn = `${heading}BT /F1 11 Tf 16 TL 60 738 Td\n${body}\nET`
    objects.push(
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents ${5 + 2 * i} 0 R /Resources << /Font << /F1 3 0 R >> >> >>`,
      `<< /Length ${Buffer.byteLength(drawn, 'latin1')} >>\nstream\n${drawn}\nendstream`,
    )
  })
  let file = '%PDF-1.4\n'
  const places = objects.map((object, i) => {
    const at = Buffer.byteLength(file, 'latin1')
    file += `${i + 1} 0 obj\n${object}\nendobj\n`
    return at
  })
  const table = Buffer.byteLength(file, 'latin1')
  const rows = places.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('')
  file += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${rows}`
  file += `trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`
  return Buffer.from(file, 'latin1')
}

/**
 * A picture in PNG (ISO/IEC 15948), eight bits a channel.
 * @param colourAt red, green and blue (0 to 255) at a place
 */
export function makePng(
  width: number,
  height: number,
  colourAt: (x: number, y: number) => readonly [number, number, number],
): Buffer {
  const rows = Buffer.alloc(height * (1 + 3 * width))
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) rows.set(colourAt(x, y), y * (1 + 3 * width) + 1 + 3 * x)
  }
  const head = Buffer.alloc(13)
  head.writeUInt32BE(width, 0)
  head.writeUInt32BE(height, 4)
  head.set([8, 2, 0, 0, 0], 8)
  const chunk = (name: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(name, 'latin1'), data])
    const whole = Buffer.alloc(body.length + 8)
    whole.writeUInt32BE(data.length, 0)
    body.copy(whole, 4)
    whole.writeUInt32BE(crc32(body), body.length + 4)
    return whole
  }
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(rows)),
    chunk('IEND', Buffer.alloc(0)),
  ])
}
