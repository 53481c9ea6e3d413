import { crc32 } from 'node:zlib'
import exifr from 'exifr'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { forgetPlace } from './takenAt.ts'

/** Tags as cameras write them: turned a quarter, and taken at 47.5 north, 8.75 east. */
function tags(little: boolean): Buffer {
  const bytes = Buffer.alloc(8 + 2 + 2 * 12 + 4 + 2 + 4 * 12 + 4 + 48)
  const short = (at: number, value: number) =>
    little ? bytes.writeUInt16LE(value, at) : bytes.writeUInt16BE(value, at)
  const long = (at: number, value: number) =>
    little ? bytes.writeUInt32LE(value, at) : bytes.writeUInt32BE(value, at)
  const entry = (at: number, tag: number, type: number, count: number, value: number | string) => {
    short(at, tag)
    short(at + 2, type)
    long(at + 4, count)
    if (typeof value === 'string') bytes.write(value, at + 8, 'latin1')
    else if (type === 3) short(at + 8, value)
    else long(at + 8, value)
  }
  bytes.write(little ? 'II*\0' : 'MM\0*', 0, 'latin1')
  long(4, 8)
  short(8, 2)
  entry(10, 0x0112, 3, 1, 6)
  entry(22, 0x8825, 4, 1, 38)
  short(38, 4)
  entry(40, 1, 2, 2, 'N\0')
  entry(52, 2, 5, 3, 92)
  entry(64, 3, 2, 2, 'E\0')
  entry(76, 4, 5, 3, 116)
  const degrees = (at: number, values: number[]) =>
    values.forEach((value, i) => {
      long(at + i * 8, value)
      long(at + i * 8 + 4, 1)
    })
  degrees(92, [47, 30, 0])
  degrees(116, [8, 45, 0])
  return bytes
}

function segment(marker: number, body: Buffer): Buffer {
  const head = Buffer.from([0xff, marker, 0, 0])
  head.writeUInt16BE(body.length + 2, 2)
  return Buffer.concat([head, body])
}
const jpeg = (...segments: Buffer[]) =>
  Buffer.concat([
    Buffer.from([0xff, 0xd8]),
    ...segments,
    Buffer.from([0xff, 0xda, 0, 2, 1, 2, 3, 0xff, 0xd9]),
  ])
const exif = (little = true) =>
  segment(0xe1, Buffer.concat([Buffer.from('Exif\0\0', 'latin1'), tags(little)]))
const xmp = (text: string) => segment(0xe1, Buffer.from(`http://ns.adobe.com/xap/1.0/\0${text}`, 'latin1'))

function chunk(name: string, body: Buffer): Buffer {
  const all = Buffer.alloc(body.length + 12)
  all.writeUInt32BE(body.length, 0)
  all.write(name, 4, 'latin1')
  body.copy(all, 8)
  all.writeUInt32BE(crc32(all.subarray(4, body.length + 8)), body.length + 8)
  return all
}

describe('a picture forgets where it was taken', () => {
  it.each([true, false])(
    'in its tags, whatever their byte order, and nothing else (little end first: %s)',
    async (little) => {
      const picture = jpeg(exif(little))
      expect(await exifr.gps(picture)).toMatchObject({ latitude: 47.5, longitude: 8.75 })
      const { length } = picture
      expect(forgetPlace(picture)).toBe(true)
      expect(picture.length).toBe(length)
      expect(await exifr.gps(picture)).toBeUndefined()
      expect(await exifr.orientation(picture)).toBe(6)
      // Nothing of it is left, wherever one looks.
      expect(picture.includes(tags(little).subarray(92, 100))).toBe(false)
      // It comes to the same when it is done again.
      expect(forgetPlace(picture)).toBe(false)
    },
  )

  it('in text beside it, as attributes and as elements, whoever wrote it', () => {
    const text = `<x:xmpmeta><rdf:Description exif:GPSLatitude="47,30N" drone:GpsLongitude='8.75' dc:title="Crock"/>
      <exif:GPSAltitude>431/1</exif:GPSAltitude></x:xmpmeta>`
    const picture = jpeg(xmp(text))
    expect(forgetPlace(picture)).toBe(true)
    const left = picture.toString('latin1')
    expect(left).not.toMatch(/gps|47,30|8\.75|431/i)
    expect(left).toContain('dc:title="Crock"')
  })

  it('in a PNG, whose check sums still hold', async () => {
    const head = Buffer.alloc(13)
    head.writeUInt32BE(1, 0)
    head.writeUInt32BE(1, 4)
    head.set([8, 0, 0, 0, 0], 8)
    const text = Buffer.from(
      'XML:com.adobe.xmp\0\0\0\0\0<x:xmpmeta exif:GPSLatitude="47,30N"></x:xmpmeta>',
      'latin1',
    )
    const parts = [
      chunk('IHDR', head),
      chunk('eXIf', tags(true)),
      chunk('iTXt', text),
      chunk('IEND', Buffer.alloc(0)),
    ]
    const picture = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), ...parts])
    expect(forgetPlace(picture)).toBe(true)
    expect(picture.toString('latin1')).not.toContain('47,30')
    expect(await exifr.gps(picture)).toBeUndefined()
    let at = 8
    const names: string[] = []
    while (at < picture.length) {
      const length = picture.readUInt32BE(at)
      expect(picture.readUInt32BE(at + 8 + length)).toBe(crc32(picture.subarray(at + 4, at + 8 + length)))
      names.push(picture.toString('latin1', at + 4, at + 8))
      at += length + 12
    }
    expect(names).toEqual(['IHDR', 'eXIf', 'iTXt', 'IEND'])
  })

  it('in tags that stand bare, as in other kinds of pictures, also more than once', async () => {
    const twice = Buffer.concat([Buffer.from('RIFFxxxxWEBPEXIF'), tags(true), Buffer.alloc(7), tags(false)])
    expect(forgetPlace(twice)).toBe(true)
    expect(twice.includes(tags(true).subarray(92, 100))).toBe(false)
    expect(twice.includes(tags(false).subarray(92, 100))).toBe(false)
  })

  it('and is left as it was where it says nothing of it, or is broken at any place', () => {
    const plain = jpeg(segment(0xfe, Buffer.from('a comment, GPSLatitude="47"')))
    const before = Buffer.from(plain)
    expect(forgetPlace(plain)).toBe(false)
    expect(plain.equals(before)).toBe(true)
    const whole = jpeg(exif(true), xmp('<x:xmpmeta exif:GPSLatitude="47"></x:xmpmeta>'))
    fc.assert(
      fc.property(
        fc.nat(whole.length),
        fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255))),
        (cut, bytes) => {
          const broken = Buffer.from(whole.subarray(0, cut))
          for (const [at, byte] of bytes) if (at < cut) broken[at] = byte
          forgetPlace(broken)
          expect(broken.length).toBe(cut)
        },
      ),
      { numRuns: 500 },
    )
  })
})
