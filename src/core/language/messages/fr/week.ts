import type { WeekWords } from "../en/week";

export const week: WeekWords = {
  title: "Feuille de la semaine",
  range: "du {from} au {to}",
  weeks: "Semaines",
  before: "← La semaine d’avant",
  after: "La semaine d’après →",
  thisWeek: "Cette semaine",
  letters: "{count, plural, one {# lettre} other {# lettres}} à lire",
  nothingNow: "Rien à faire, rien qui manque, rien de rendu ces jours-ci",
  nothingThen: "Rien n’était à faire cette semaine-là",
  work: "travail",
  due: "à remettre",
  where: "où il en est",
  whereNow: "où il en est maintenant",
  score: "note",
  cameBack: "rendu {when}",
  fromTeachers: "des enseignants",
  letterFrom: "{name}, {when}",
  mail: "Un courriel à {address} le vendredi après-midi : combien il y a à faire, et le chemin jusqu’ici",
  language: "Langue",
  print: "Imprimer",
};
