import type { Lot } from '../core/lot.ts'

// Made-up people: given names and surnames from many places, drawn together by lot.
const GIVEN =
  `Ada Bao Carmen Dev Elif Farid Gwen Hana Imre Jonas Kalea Lucía Mateus Noor Oskar Priya Quentin Rosa Sami
Tamsin Uma Viktor Wren Xiomara Yusuf Zofia Åse Bjørn Chiara Dilnoza Ewa Faisal Grzegorz Hye-jin Ingrid Joaquín Kwame
Léonie Mirela Nnamdi Odalys Petra Ruairí Søren Thandiwe Ulla Valentina Waleed Yara Žofie Amélie Benedikt Chidi Daria
Efua Fionn Goran Halima Iñaki Jadwiga Kenji Liselotte Malik Naledi Orsolya Pavel Ragnhild Sunniva Tomáš Ursula Vesna
Winfred Yevgenia Zainab Alejandra Bilal Cosmin Dagny Estelle Finnegan Giulia Héctor Isolde Jarmila Katarzyna`.split(
    /\s+/,
  )

const SURNAMES =
  `Lindqvist Trinh Oduya Malhotra Sarkis Haddou Pritchard Okabe Fodor Wehr Brandt Ferrand Prado Bashir
Nyman Venkat Dale Ilves Korhola Reed Castel Hales Adeyo Møllgård Szczęsny Núñez-Arce Őrsi Čermák Vlăsceanu Achterberg
O’Rahilly Þorvaldsen Mbeki-Lund Katz Iversen Dube Quispe Yıldız Strand Kowalewicz Farrugia Tamm Beaufils Nkemelu Zhao
Petrosyan Van_der_Meulen Da_Conceição Halloran Rahmati Sørbø Guðnadóttir Amadi Ferreira_de_Brito Weißkopf Tkach Solano
Hirvonen Mwangi Delacroix-Petit Jansone Bravo Sandoval Krüger Abenov Nakashima Ruiz Eklöf Pacheco Obuya Lacroix Varga
Wickramanayake-Thornquist Ito Ng Bø`.split(/\s+/)

const LETTERS: Record<string, string> = { ø: 'o', å: 'a', ł: 'l', ß: 'ss', þ: 'th', ð: 'd', ı: 'i', æ: 'ae' }

/** A name with the address that goes with it. */
export interface MadeUp {
  name: string
  email: string
}

/** Draws a number of people, no two with the same name or address. */
export function drawPeople(count: number, lot: Lot, domain: string): MadeUp[] {
  const people = new Map<string, MadeUp>()
  const surnames = SURNAMES.map((name) => name.replaceAll('_', ' '))
  while (people.size < count) {
    const given = GIVEN[lot.below(GIVEN.length)] as string
    const surname = surnames[lot.below(surnames.length)] as string
    const email = `${plain(given)}.${plain(surname)}@${domain}`
    if (!people.has(email)) people.set(email, { name: `${given} ${surname}`, email })
  }
  return [...people.values()]
}

function plain(name: string): string {
  return name
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .replace(/[øåłßþðıæ]/g, (letter) => LETTERS[letter] ?? letter)
    .replace(/[^a-z]+/g, '-')
    .replace(/^-|-$/g, '')
}
