import { describe, expect, it } from 'vitest'
import { readOneRoster, rosterOfClasses } from './oneRoster.ts'
import { readRosterCsv, writeRosterCsv } from './rosterCsv.ts'

const users = `"sourcedId","status","dateLastModified","enabledUser","username","identifier","givenName","familyName","preferredGivenName","preferredFamilyName","email"
u1,active,,true,ada,0101,Adelheid,Lindqvist,Ada,,Ada@school.example
u2,active,,true,bao,0102,Bao,Trinh,,Trinh-Oduya,bao@school.example
u3,tobedeleted,,true,cem,,Cem,Dale,,,cem@school.example
u4,active,,true,ida,,Ida,Reed,,,ida@school.example
u5,active,,true,dev,,Dev,Nomail,,,
u6,active,,false,fay,,Fay,Gone,,,fay@school.example
`
const classes = `sourcedId,status,title,classCode\nk1,active,Tuesday lab,F1\nk2,active,Wednesday lab,F2\nk3,tobedeleted,Old lab,F3\n`
const enrollments = `sourcedId,status,classSourcedId,schoolSourcedId,userSourcedId,role
e1,active,k1,s,u1,student
e2,active,k2,s,u2,student
e3,active,k1,s,u3,student
e4,active,k1,s,u4,teacher
e5,tobedeleted,k2,s,u1,student
e6,active,k2,s,u5,student
e7,active,k2,s,u1,guardian
e8,active,k1,s,u6,student
e9,active,k1,s,u99,student
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
      'Adelheid Lindqvist, student',
      'Bao Trinh, student',
      'Ida Reed, instructor',
      'Dev Nomail, student',
    ])
    expect(reading.people).toMatchObject([
      { given: 'Adelheid', family: 'Lindqvist', called: 'Ada Lindqvist', number: '0101' },
      { called: 'Bao Trinh-Oduya' },
      { called: '' },
      {},
    ])
    expect(reading.notes).toEqual([
      'users.csv: 1 person is not enabled and left out (Fay Gone in line 7).',
      'users.csv: 1 person has no address (Dev Nomail in line 6).',
      'enrollments.csv: 1 person is no user of users.csv (“u99” in line 10).',
      'enrollments.csv: 1 person is left out for the role (Adelheid Lindqvist as “guardian” in line 8).',
    ])
  })

  it('tells classes of one title apart by their codes, and asks about students in two of them', () => {
    const reading = readOneRoster({
      ...files,
      classes: classes.replace('Wednesday lab', 'Tuesday lab'),
      enrollments: `${enrollments}e10,active,k2,s,u1,student\n`,
    })
    if (!reading.readable) throw new Error(reading.message)
    expect(reading.classes.map(({ title }) => title)).toEqual(['Tuesday lab (F1)', 'Tuesday lab (F2)'])
    const sectionOf = (id: string) => ({ k1: 'Tue lab', k2: 'Wed lab' })[id]
    const { lines, several } = rosterOfClasses(reading.people, sectionOf)
    expect(several).toEqual([{ userId: 'u1', name: 'Ada Lindqvist', sections: ['Tue lab', 'Wed lab'] }])
    expect(lines[0]).toMatchObject({ name: 'Adelheid Lindqvist', section: 'Tue lab' })
    const said = rosterOfClasses(reading.people, sectionOf, new Map([['u1', 'Wed lab']]))
    expect(said.lines[0]).toMatchObject({ section: 'Wed lab' })
    expect(rosterOfClasses(reading.people, () => 'Tue lab').several).toEqual([])
  })

  it('becomes a roster that the roster’s own check reads, faults included', () => {
    const reading = readOneRoster(files)
    if (!reading.readable) throw new Error(reading.message)
    const sections: Record<string, string> = { k1: 'Tue lab', k2: 'Wed lab' }
    const csv = writeRosterCsv(rosterOfClasses(reading.people, (id) => sections[id]).lines)
    const roster = readRosterCsv(csv, ['Tue lab', 'Wed lab'])
    expect(roster).toMatchObject({
      readable: true,
      lines: [
        {
          name: 'Adelheid Lindqvist',
          called: 'Ada Lindqvist',
          number: '0101',
          email: 'ada@school.example',
          section: 'Tue lab',
        },
        { name: 'Bao Trinh', section: 'Wed lab' },
        { name: 'Ida Reed', section: null, role: 'instructor' },
      ],
      faults: [{ line: 5, field: 'email' }],
    })
    expect(rosterOfClasses(reading.people, (id) => (id === 'k2' ? null : undefined)).lines).toMatchObject([
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
