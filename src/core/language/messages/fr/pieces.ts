import type { PieceWords } from "../en/pieces";

export const pieces: PieceWords = {
  excused: "dispensé",
  notOpened: "pas encore ouvert",
  started: "commencé",
  handedIn: "remis",
  handedInAgain: "remis de nouveau",
  handedBack: "rendu",
  toRevise: "à reprendre",
  reworking: "en reprise",
  late: "en retard",
  missing: "manquant",
  round: "tour {number}",
};
