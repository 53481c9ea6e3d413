import { readdirSync, writeFileSync } from 'node:fs'
import { connect } from 'node:net'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { MIB } from '../../src/core/files.ts'
import { DAY, HOUR } from '../../src/core/instant.ts'
import { forgetRemoved } from '../../src/server/files/groupFiles.ts'
import { sweep } from '../../src/server/files/uploads.ts'
import { type Client, type Harness, must, type School } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { beginUpload, bring, download, sendBytes } from './uploading.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
  await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  await labs.take(labs.tue(1), 'Tempeh/Tue lab')
  await extras({ files: true })
})
afterEach(() => harness.end())

const tempeh = () => school.groups['Tempeh/Tue lab']!
const aim = () => ({ aim: 'group' as const, group: tempeh() })
const extras = (body: object) => must(school.owner.send('PUT', `${labs.at}/extras`, body))
const page = (client: Client) => must<GroupPage>(client.get(`${labs.at}/groups/${tempeh()}`))
const put = (name: string, content: string | Uint8Array, client = labs.tue(0)) =>
  bring(harness, client, labs.at, aim(), name, content)
const onDisk = () => {
  const folder = `${harness.db.name}.files`
  return { parts: readdirSync(join(folder, 'parts')), kept: readdirSync(join(folder, 'kept')) }
}
const PNG = new Uint8Array([
  137, 80, 78, 71, 13, 10, 26, 10, 0, 0, 0, 13, 73, 72, 68, 82, 0, 0, 0, 1, 0, 0, 0, 1, 8, 6, 0, 0, 0, 31, 21,
  196, 137,
])

describe('a file of a group', () => {
  it('is there for its members, as a download, under the type that its content shows', async () => {
    await put('plot.pdf', PNG)
    await put('page.html', '<script>alert(1)</script>')
    await put('drawing.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>')
    const { files, bytes } = await page(labs.tue(1))
    const types = Object.fromEntries(files.map(({ name, versions }) => [name, versions[0]?.type]))
    expect(types['plot.pdf']).toBe('image/png')
    expect(types['page.html']).toBe('text/plain')
    expect(['text/plain', 'application/xml', 'image/svg+xml']).toContain(types['drawing.svg'])
    expect(bytes).toBe(PNG.length + 25 + 71)
    for (const { name, versions } of files) {
      const got = await download(harness, labs.tue(1), `${labs.at}/files/${versions[0]?.code}`)
      expect(got.status).toBe(200)
      expect(got.headers.get('content-disposition')).toBe(
        `attachment; filename="${name}"; filename*=UTF-8''${name}`,
      )
      expect(got.headers.get('x-content-type-options')).toBe('nosniff')
      expect(got.headers.get('content-security-policy')).toMatch(/default-src 'none'.*sandbox/)
      expect(got.headers.get('content-type')).not.toMatch(/html/)
    }
  })

  it('that is a picture has lost where it was taken, before anybody gets it; its size is as it was', async () => {
    const text = '<x:xmpmeta exif:GPSLatitude="47,30N" dc:title="Crock"></x:xmpmeta>'
    const picture = Buffer.concat([
      Buffer.from([0xff, 0xd8, 0xff, 0xe1, 0, text.length + 2]),
      Buffer.from(text),
    ])
    await put('crock.jpg', picture)
    const { files } = await page(labs.tue(1))
    expect(files[0]?.versions[0]).toMatchObject({ type: 'image/jpeg', size: picture.length })
    const got = await download(harness, labs.tue(1), `${labs.at}/files/${files[0]?.versions[0]?.code}`)
    expect(got.text).toContain('dc:title="Crock"')
    expect(got.text).not.toMatch(/gps|47,30/i)
  })

  it('has versions, is taken away and brought back, and is forgotten after a month', async () => {
    await put('Notes.txt', 'first')
    expect(await put('notes.txt', 'second', labs.tue(1))).toMatchObject({ newVersion: true })
    const [file] = (await page(labs.tue(0))).files
    expect(file?.versions.map(({ version, by }) => `${version} ${by}`)).toEqual([
      '2 Student 1 Tue lab',
      '1 Student 0 Tue lab',
    ])
    const old = `${labs.at}/files/${file?.versions[1]?.code}`
    expect((await download(harness, labs.tue(0), old)).text).toBe('first')
    const at = `${labs.at}/groups/${tempeh()}/files/${file?.code}`
    await must(labs.tue(1).send('DELETE', at))
    expect((await page(labs.tue(0))).files[0]?.removedAt).not.toBeNull()
    expect((await download(harness, labs.tue(0), old)).status).toBe(404)
    await must(labs.tue(0).post(`${at}/restore`))
    expect((await page(labs.tue(0))).files[0]?.removedAt).toBeNull()
    await must(labs.tue(1).send('DELETE', at))
    await put('notes.txt', 'another')
    expect((await labs.tue(0).post<Problem>(`${at}/restore`)).body.detail).toMatch(/another “Notes.txt”/)
    harness.clock.advance(31 * DAY)
    forgetRemoved(harness.stores, harness.clock.now())
    await sweep(harness.disk, harness.stores.files, harness.clock.now())
    expect((await page(labs.tue(0))).files).toHaveLength(1)
    expect(onDisk().kept).toHaveLength(1)
  })

  it('does not exist for anybody else, nor for a member who moved, nor while files are off', async () => {
    await put('notes.txt', 'ours')
    const path = `${labs.at}/files/${(await page(labs.tue(0))).files[0]?.versions[0]?.code}`
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    for (const client of [labs.tue(2), labs.tue(3), labs.wed(0), harness.as('tutor@school.example')])
      expect((await download(harness, client, path)).status).toBe(404)
    expect((await put('theirs.txt', 'x', labs.tue(2))) as Problem).toMatchObject({ code: 'not-found' })
    expect((await download(harness, school.owner, path)).text).toBe('ours')
    await labs.move(labs.tue(1), 'Tempeh/Tue lab', 'Miso/Tue lab')
    expect((await download(harness, labs.tue(1), path)).status).toBe(404)
    expect((await labs.tue(1).get(`${labs.at}/groups/${tempeh()}`)).status).toBe(404)
    await extras({ files: false })
    expect((await download(harness, labs.tue(0), path)).status).toBe(404)
    expect((await page(labs.tue(0))).files).toEqual([])
    await extras({ files: true })
    expect((await page(labs.tue(0))).files).toHaveLength(1)
  })

  it('that cannot be kept is refused with a reason: empty, too large, no room, no name', async () => {
    const begin = async (name: string, size: number) =>
      (await beginUpload(labs.tue(0), labs.at, aim(), { name, size })).body
    expect((await begin('empty.txt', 0)).detail).toMatch(/empty \(0 bytes\)/)
    await extras({ fileBytes: MIB, groupBytes: 2 * MIB })
    expect((await begin('big.bin', MIB + 1)).detail).toMatch(/“big.bin” has 1 MiB; a file may have 1 MiB/)
    expect((await begin('../', 5)).code).toBe('file-name-unusable')
    expect((await begin('../../etc/passwd', 5)).name).toBe('passwd')
    expect((await begin(`${'long '.repeat(60)}.pdf`, 5)).name).toMatch(/^.{116}\.pdf$/)
    expect((await begin('report\u202Efdp.exe', 5)).name).toBe('reportfdp.exe')
    await put('a.bin', new Uint8Array(MIB))
    // What is on its way counts too.
    expect((await begin('b.bin', MIB)).code).toBe('no-room-left')
    // What was begun and left counts with the bytes that came, of which there are none.
    harness.clock.advance(2 * HOUR)
    expect((await begin('b.bin', MIB)).name).toBe('b.bin')
    expect(
      (await school.owner.send<Problem>('PUT', `${labs.at}/extras`, { groupBytes: 10, fileBytes: 5 })).body
        .code,
    ).toBe('body-invalid')
  })
})

describe('an upload', () => {
  it('goes on where it was cut off, also when the same file is chosen again later', async () => {
    const begun = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'long.txt', size: 10 })
    const path = `${labs.at}/uploads/${begun.body.code}`
    expect((await sendBytes(harness, labs.tue(0), path, 0, new TextEncoder().encode('01234'))).offset).toBe(5)
    expect((await page(labs.tue(0))).files).toEqual([])
    const again = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'long.txt', size: 10 })
    expect(again.body).toMatchObject({ code: begun.body.code, offset: 5 })
    const other = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'long.txt', size: 10, modified: 2 })
    expect(other.body.code).not.toBe(begun.body.code)
    const wrong = await sendBytes(harness, labs.tue(0), path, 3, new TextEncoder().encode('34567'))
    expect(wrong.problem?.code).toBe('upload-elsewhere')
    expect((await labs.tue(1).get(path)).status).toBe(404)
    const past = await sendBytes(harness, labs.tue(0), path, 5, new TextEncoder().encode('5678901234'))
    expect(past.problem?.code).toBe('upload-past-end')
    const state = await labs.tue(0).get<{ offset: number }>(path)
    const rest = '0123456789'.slice(state.body.offset)
    expect(
      (await sendBytes(harness, labs.tue(0), path, state.body.offset, new TextEncoder().encode(rest))).status,
    ).toBe(204)
    const [file] = (await page(labs.tue(1))).files
    expect((await download(harness, labs.tue(1), `${labs.at}/files/${file?.versions[0]?.code}`)).text).toBe(
      '0123456789',
    )
  })

  it('whose connection breaks in the middle keeps what came, and no half file is seen', async () => {
    const begun = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'cut.bin', size: 100_000 })
    const path = `${labs.at}/uploads/${begun.body.code}`
    const { hostname, port } = new URL(harness.address)
    const socket = connect(Number(port), hostname)
    socket.write(
      `PATCH ${path} HTTP/1.1\r\nHost: ${hostname}:${port}\r\nOrigin: ${harness.address}\r\nCookie: ${labs.tue(0).cookie}\r\n` +
        'Content-Type: application/offset+octet-stream\r\nUpload-Offset: 0\r\nContent-Length: 100000\r\n\r\n',
    )
    socket.write(Buffer.alloc(40_000, 7))
    await vi.waitFor(() => expect(harness.disk.arrived(begun.body.code)).toBe(40_000))
    socket.destroy()
    const state = await labs.tue(0).get<{ offset: number }>(path)
    expect(state.body.offset).toBe(40_000)
    expect((await page(labs.tue(0))).files).toEqual([])
    const rest = await sendBytes(harness, labs.tue(0), path, 40_000, new Uint8Array(60_000).fill(7))
    expect(rest.status).toBe(204)
    expect((await page(labs.tue(0))).bytes).toBe(100_000)
    expect(onDisk().parts).toEqual([])
  })

  it('that was whole when the server went down is taken when it is asked for, and a sweep leaves only what is known', async () => {
    await put('kept.txt', 'kept')
    const begun = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'whole.txt', size: 5 })
    const folder = `${harness.db.name}.files`
    writeFileSync(join(folder, 'parts', begun.body.code), 'whole')
    writeFileSync(join(folder, 'kept', 'nobodys'), 'left over')
    writeFileSync(join(folder, 'parts', 'nobodys'), 'left over')
    expect(await sweep(harness.disk, harness.stores.files, harness.clock.now())).toEqual({
      parts: 1,
      kept: 1,
    })
    expect(
      (await labs.tue(0).get<{ offset: number }>(`${labs.at}/uploads/${begun.body.code}`)).body.offset,
    ).toBe(5)
    expect((await page(labs.tue(0))).files.map(({ name }) => name).sort()).toEqual(['kept.txt', 'whole.txt'])
    const late = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'late.txt', size: 5 })
    harness.clock.advance(8 * DAY)
    await sweep(harness.disk, harness.stores.files, harness.clock.now())
    expect((await labs.tue(0).get(`${labs.at}/uploads/${late.body.code}`)).status).toBe(404)
    expect(onDisk()).toMatchObject({ parts: [], kept: [expect.any(String), expect.any(String)] })
  })

  it('that the disk has no room for says so and can go on; when the database cannot be written, the bytes stay', async () => {
    const begun = await beginUpload(labs.tue(0), labs.at, aim(), { name: 'full.txt', size: 4 })
    const path = `${labs.at}/uploads/${begun.body.code}`
    vi.spyOn(harness.disk, 'append').mockRejectedValueOnce(
      Object.assign(new Error('no space left on device'), { code: 'ENOSPC' }),
    )
    const full = await sendBytes(harness, labs.tue(0), path, 0, new TextEncoder().encode('full'))
    expect(full).toMatchObject({ status: 507, problem: { code: 'disk-full' } })
    vi.spyOn(harness.stores.files, 'add').mockImplementationOnce(() => {
      throw Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' })
    })
    const unwritten = await sendBytes(harness, labs.tue(0), path, 0, new TextEncoder().encode('full'))
    expect(unwritten.problem?.code).toBe('store-unavailable')
    expect(onDisk()).toMatchObject({ parts: [begun.body.code], kept: [] })
    await must(labs.tue(0).get(path))
    expect((await page(labs.tue(0))).files.map(({ name }) => name)).toEqual(['full.txt'])
  })
})
