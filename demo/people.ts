/** Everyone here is invented. */
export const SCHOOL = {
  name: "Tern Island School",
  zone: "America/Halifax",
  domain: "tern-island.example",
};

/** One password for the whole demo; it is printed at the start and means nothing anywhere else. */
export const DEMO_PASSWORD = "tide-gauge";

export const TEACHERS = [
  { key: "odalys", name: "Odalys Brandt", called: "Ms Brandt" },
  { key: "ruben", name: "Ruben Achterberg", called: "Mr Achterberg" },
  { key: "imke", name: "Imke Solheim", called: "Ms Solheim" },
] as const;
export const OFFICE = { key: "pell", name: "Pell Okonjo", called: "Pell" };

export type TeacherKey = (typeof TEACHERS)[number]["key"];

export const SECTIONS: {
  name: string;
  course: string;
  owner: TeacherKey;
  co?: TeacherKey;
  size: number;
}[] = [
  { name: "Gannet", course: "Earth & Sky 8", owner: "odalys", co: "ruben", size: 26 },
  { name: "Plover", course: "Earth & Sky 8", owner: "odalys", size: 24 },
  { name: "Curlew", course: "Field Writing 9", owner: "odalys", size: 22 },
  { name: "Petrel", course: "Tides & Numbers 10", owner: "odalys", size: 19 },
  { name: "Fulmar", course: "Earth & Sky 8", owner: "imke", size: 8 },
];

/** Names of many origins: accents, apostrophes, one word, long ones, and two Noor Haddads. */
export const STUDENTS = [
  "Aino Kallas-Ferreira",
  "Amadou Sarr",
  "Anneke Vroom",
  "Aoife Ní Bhriain",
  "Arjun Velloth",
  "Astrid Holm-Okafor",
  "Ayse Demirtaş",
  "Bao Trương",
  "Beatriz Quintal",
  "Bram de Wolde",
  "Chiamaka Eze",
  "Cillian O’Rahilly",
  "Dagny Ulvestad",
  "Daniyar Seitov",
  "Delphine Marchetti",
  "Dunya Karimova",
  "Efua Mensima",
  "Eirik Stensland",
  "Elif Yurdakul",
  "Emeka Nwosu-Blake",
  "Farah Benyamina",
  "Fionn McAteer",
  "Freya Lindqvist",
  "Gwenllian Prydderch",
  "Hana Sedláčková",
  "Haruto Minagawa",
  "Hedda Brekke",
  "Hugo Castellanos",
  "Ilse Vanderhaeghe",
  "Ines Carvalhal",
  "Ingrid Þórsdóttir",
  "Iseult D’Arcy",
  "Ivo Petrović",
  "Jannik Sørby",
  "Jae-won Ryu",
  "Jasmin Rautavaara",
  "João Pimentel",
  "Kalinda Waaka",
  "Karolína Vávrová",
  "Kofi Antwi-Darko",
  "Lachlan Muirhead",
  "Leilani Kahale",
  "Linnea Ek",
  "Lourdes Apaza",
  "Lucía Ibarrondo",
  "Maëlle Kervadec",
  "Magnus Thorkelin",
  "Makena Wanjiru",
  "Marisol Etxeberria",
  "Mei-Lin Tsao",
  "Mihai Dobrescu",
  "Mirembe Nakato",
  "Nadia Ouazzani",
  "Naledi Mokoena",
  "Niamh Ó Súilleabháin",
  "Nikolai Yefremov",
  "Noor Haddad",
  "Noor Haddad",
  "Oisín Fahy",
  "Olena Hrytsenko",
  "Oluwaseun Adebayo-Finch",
  "Orla Quilligan",
  "Oskar Zieliński",
  "Pania Rangihuna",
  "Paolo Bevilacqua",
  "Petra Novotná",
  "Priya Ramanathan",
  "Quincy Abelard",
  "Rafael Mondragón",
  "Rania Shaheen",
  "Renske Dijkhuizen",
  "Rin Asakura",
  "Roisin Tully",
  "Rosalind Featherstonehaugh",
  "Saga Wikström",
  "Samir El-Khatib",
  "Sanna Niittymäki",
  "Seo-yeon Baek",
  "Sigrún",
  "Siobhán Mac Giolla",
  "Sofie Overgaard",
  "Stellan Roos",
  "Suada Hadžić",
  "Sunniva Aasland",
  "Tadhg Breathnach",
  "Tamsin Penhallow",
  "Tariq Bousaid",
  "Teuila Faleafa",
  "Thandiwe Dube",
  "Tuva Myklebust",
  "Ugo Bassanelli",
  "Valeria Zambrano",
  "Wanja Kimathi",
  "Wikitoria Paewai",
  "Xiadani Tlapa",
  "Ximena Urrutia",
  "Yara Nascimento",
  "Yusuf Abdirahman",
  "Zanele Khumalo",
] as const;

/** Guardians, and which students (by their place above) are their children; one has two. */
export const GUARDIANS: { name: string; children: number[] }[] = [
  { name: "Katri Kallas", children: [0] },
  { name: "Mamadou Sarr", children: [1] },
  { name: "Bríd Ní Bhriain", children: [3, 41] },
  { name: "Leena Velloth", children: [4] },
  { name: "Cấn Trương", children: [7] },
  { name: "Gunnar Ulvestad", children: [12] },
  { name: "Solange Marchetti", children: [14] },
  { name: "Rhys Prydderch", children: [23] },
  { name: "Layla Haddad", children: [56] },
  { name: "Pavel Zieliński", children: [62] },
  { name: "Aroha Rangihuna", children: [63] },
  { name: "Zoltán Dobrescu", children: [50] },
];

/** By the last word, as rosters are kept; a single name is its own. */
export function sortNameOf(name: string): string {
  const words = name.split(" ");
  return words.length === 1 ? name : `${words.slice(1).join(" ")}, ${words[0]}`;
}

export function loginOf(name: string): string {
  return name
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .replace(/[Þþ]/g, "th")
    .replace(/[Øø]/g, "o")
    .replace(/[ðđ]/g, "d")
    .replace(/[ıİ]/g, "i")
    .replace(/ł/g, "l")
    .toLowerCase()
    .replace(/[^a-z\s-]/g, "")
    .trim()
    .replace(/\s+/g, ".");
}
