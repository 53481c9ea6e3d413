// Made-up files as systems and people really have them, written anew: node tests/files/make.mjs
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import * as XLSX from '@e965/xlsx'
import ExcelJS from 'exceljs'

const at = (name) => join(import.meta.dirname, name)
const text = (name, content) => writeFileSync(at(name), content)

text(
  'roster-semicolons-bom.csv',
  '\uFEFFNachname;Vorname;E-Mail;Section\r\n;;;\r\nStrand;Mirela;m.strand@school.example;Tue lab\r\nØdegård;Åse;a.odegard@school.example;wed  LAB\r\n;;;\r\n',
)
text(
  'roster-titles-quotes.csv',
  'Class list FERM 210,,,\nPrinted 13 May 2026,,,\n"Student","Student number","Email address","Lab section"\n"Oduya, Nnamdi",0042,n.oduya@school.example,Tue lab\n"de Brito, Ana",0107,a.brito@school.example,Wed lab\n"Lindqvist, Ada",0108,"a.lindqvist@school.example",Tue lab\n',
)
text(
  'roster-none-headed.tsv',
  'Bao\tTrinh\tb.trinh@school.example\tTue lab\nCem\tDale\tc.dale@school.example\tWed lab\n',
)
text(
  'roster-addresses.txt',
  'Ada Lind <ada@school.example>; "Reed, Bo" <bo@school.example>, cem.dale@school.example\n',
)
text(
  'roster-invisible.csv',
  'name,email,section\n\u200FA\u0301da\u00A0 Lind,a@school.example,Tue\u200B lab\nBo Reed,b\u200B@school.example,Wed lab\n',
)
text('roster-sep-line.csv', 'sep=;\nname;email;section\nKim Lee;k@school.example;Tue lab\n')
text(
  'roster-formulas.csv',
  'name,email,section\n\'=HYPERLINK Ada,a@school.example,Tue lab\n"\'+Bo",b@school.example,Wed lab\n',
)
writeFileSync(
  at('roster-utf16.txt'),
  Buffer.concat([
    Buffer.from([0xff, 0xfe]),
    Buffer.from('name\temail\tsection\r\nÞóra Ýr\tt@school.example\tTue lab\r\n', 'utf16le'),
  ]),
)
writeFileSync(
  at('roster-windows1252.csv'),
  Buffer.concat([
    Buffer.from('name,email,section\r\nJos'),
    Buffer.from([0xe9]),
    Buffer.from(' Nu'),
    Buffer.from([0xf1]),
    Buffer.from('ez,j@school.example,Tue lab\r\n'),
  ]),
)
text(
  'topics-dates.csv',
  'Title;Seats;Day;From;To;Room\nTempeh;3;05/06/2026;10:00 am;11:30 am;Warm cabinet\nMiso;none;13/06/2026;22:00;01:00;Cold room\nKefir;;15 June 2026;13:30:00;;\n',
)
text('topics-doubtful.csv', 'title,date,start\nTempeh,05/06/2026,10:00\nMiso,07/08/2026,10:00\n')
text('topics-two-columns.tsv', 'Sourdough\t4 jars\nVinegar\t2 jars\n')
text('marks-of-100.csv', 'Student number,Report (of 100),Poster\n0042,85,4.5\n107,"1,000",3\n999,50,1\n')
text(
  'topics-by-section.csv',
  'Topic;Section;Places;Day;From;Room;Reserved for;Offered;Supervisor\nMiso;;4;;;Bench 1;;;Kim\nMiso;TUE LAB;2;13 May 2026;10:00;;"ada@school.example; a guest";;\nMiso;Wed lab;;;;;;no;\nKefir;wed  lab;3;14 May 2026;9.15;Bench 2;;;\n',
)
text(
  'marks-by-criteria.csv',
  'Student number;Report;Report: What was seen (of 5);Report: Plain writing;Report: feedback\n0042;7,5;4,5;3;Good eye.\n107;;6;2;\n',
)
text(
  'seats-coded.csv',
  'name,email,topic,group section,group code\nAda Lind,ada@school.example,Tempeh,Tue lab,g2\nAda Lind,ada@school.example,Kefir,Tue lab,g3\n',
)

const book = new ExcelJS.Workbook()
book.addWorksheet('Notes').state = 'hidden'
const people = book.addWorksheet('People')
people.addRows([
  ['FERM 210'],
  ['Given name', 'Surname', 'Student number', 'Email', 'Section', 'Joined'],
  ['Xi', 'Ng', 42, 'x.ng@school.example', 'Tue lab', new Date('2026-05-13T00:00Z')],
  [
    'Ana María',
    'Ruiz Mora',
    107,
    { text: 'a.ruiz@school.example', hyperlink: 'mailto:a.ruiz@school.example' },
    'Wed lab',
    null,
  ],
])
people.mergeCells('A1:F1')
people.addRow(['Bo', 'Reed', { formula: '100+8', result: 108 }, 'b.reed@school.example', 'Wed lab'])
await book.xlsx.writeFile(at('roster.xlsx'))

const ods = XLSX.utils.book_new(
  XLSX.utils.aoa_to_sheet(
    [
      ['title', 'seats', 'date', 'start', 'end'],
      ['Tempeh', 3, { t: 'd', v: new Date('2026-06-05T00:00Z'), z: 'yyyy"-"mm"-"dd' }, '10:00', '11:30'],
    ],
    { UTC: true },
  ),
  'Topics',
)
writeFileSync(at('topics.ods'), XLSX.write(ods, { bookType: 'ods', type: 'buffer' }))
writeFileSync(at('picture.xlsx'), Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'))
