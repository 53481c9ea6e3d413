import { describe, expect, it } from 'vitest'
import { readOneRoster, rosterOfClasses } from './oneRoster.ts'
import { readRosterCsv, writeRosterCsv } from './rosterCsv.ts'

const users = `"sourcedId","status","dateLastModified","enabledUser","username","givenName","familyName","preferredGivenName","email"
u1,active,,true,ada,Adelheid,Lindqvist,Ada,Ada@school.example
u2,active,,true,bao,Bao,Trinh,,bao@school.example
u3,tobedeleted,,true,cem,Cem,Dale,,cem@school.example
u4,active,,true,ida,Ida,Reed,,ida@school.example
u5,active,,true,dev,Dev,Nomail,,
`
const classes = `sourcedId,status,title\nk1,active,Tuesday lab\nk2,active,Wednesday lab\nk3,tobedeleted,Old lab\n`
const enrollments = `sourcedId,status,classSourcedId,schoolSourcedId,userSourcedId,role
e1,active,k1,s,u1,student
e2,active,k2,s,u2,student
e3,active,k1,s,u3,student
e4,active,k1,s,u4,teacher
e5,tobedeleted,k2,s,u1,student
e6,active,k2,s,u5,student
e7,active,k2,s,u1,guardian
`
const files = { users, classes, enrollments }

describe('a OneRoster export', () => {
  it('gives its classes and who is in them, without what is to be deleted', () => {
    const reading = readOneRoster(files)
    if (!reading.readable) throw new Error(reading.message)
    expect(reading.classes).toEqual([
      { id: 'k1', title: 'Tuesday lab', people: 2 },
      { id: 'k2', title: 'Wednesday lab', people: 2 },
    ])
    expect(reading.people.map(({ name, role }) => `${name}, ${role}`)).toEqual([
      'Ada Lindqvist, student',
      'Bao Trinh, student',
      'Ida Reed, instructor',
      'Dev Nomail, student',
    ])
  })

  it('becomes a roster that the roster’s own check reads, faults included', () => {
    const reading = readOneRoster(files)
    if (!reading.readable) throw new Error(reading.message)
    const sections: Record<string, string> = { k1: 'Tue lab', k2: 'Wed lab' }
    const csv = writeRosterCsv(rosterOfClasses(reading.people, (id) => sections[id]))
    const roster = readRosterCsv(csv, ['Tue lab', 'Wed lab'])
    expect(roster).toMatchObject({
      readable: true,
      lines: [
        { name: 'Ada Lindqvist', email: 'ada@school.example', section: 'Tue lab' },
        { name: 'Bao Trinh', section: 'Wed lab' },
        { name: 'Ida Reed', section: null, role: 'instructor' },
      ],
      faults: [{ line: 5, field: 'email' }],
    })
    expect(rosterOfClasses(reading.people, (id) => (id === 'k2' ? null : undefined))).toMatchObject([
      { name: 'Bao Trinh', section: null },
      { name: 'Dev Nomail' },
    ])
  })

  it('says which file lacks which column', () => {
    expect(readOneRoster({ ...files, users: 'a,b\n1,2' })).toMatchObject({
      readable: false,
      message: expect.stringMatching(/users\.csv.*sourcedid/),
    })
    expect(readOneRoster({ ...files, enrollments: '' })).toMatchObject({
      message: expect.stringMatching(/enrollments\.csv/),
    })
    expect(readOneRoster({ ...files, classes: 'sourcedId,title\n' })).toMatchObject({
      message: expect.stringMatching(/no class/),
    })
  })
})
