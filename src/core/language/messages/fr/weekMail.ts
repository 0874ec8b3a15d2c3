import type { WeekMailWords } from "../en/weekMail";

export const weekMail: WeekMailWords = {
  subject: "La feuille de la semaine",
  hello: "Bonjour {name},",
  toDo: "{count, plural, one {# travail est à faire} other {# travaux sont à faire}}",
  missing: "{count, plural, one {# travail manque} other {# travaux manquent}}",
  back: "{count, plural, one {# travail est revenu cette semaine} other {# travaux sont revenus cette semaine}}",
  sheet: "La feuille : {where}",
  here: "Vous la trouvez dans Almanac, sur votre première page.",
  off: "Vous pouvez y désactiver ce courriel.",
};
