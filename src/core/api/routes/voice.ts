import { object, string } from "yup";
import { SHOWS, type ClipView } from "../../views/voiceViews";
import { endpoint } from "../endpoint";

/** Five minutes of speech as browsers record it are under 3 MB; a WAV of a minute is 11. */
const MOST_BYTES = 12_000_000;

/** Voice clips, their words, and texts read aloud. */
export const voiceRoutes = {
  addPieceClip: endpoint<ClipView>()({
    method: "POST",
    path: "/api/pieces/{pieceId}/clips",
    for: "signed-in",
    summary: "Keep a recording for a piece: on a mark, or as a reply",
    bytes: MOST_BYTES,
    once: true,
  }),
  addClip: endpoint<ClipView>()({
    method: "POST",
    path: "/api/clips",
    for: "signed-in",
    summary: "Keep a teacher's own recording: for the bank, or beside instructions",
    bytes: MOST_BYTES,
    once: true,
  }),
  clip: endpoint<ClipView>()({
    method: "GET",
    path: "/api/clips/{clipId}",
    for: "signed-in",
    summary: "A clip, for its player",
  }),
  clipSound: endpoint<never>()({
    method: "GET",
    path: "/api/clips/{clipId}/sound",
    for: "signed-in",
    summary: "A clip's sound, or a range of it",
    gives: "audio/webm",
    query: { as: "`levelled`: as loud as all others; else as it came" },
  }),
  clipWords: endpoint<never>()({
    method: "GET",
    path: "/api/clips/{clipId}/words",
    for: "signed-in",
    summary: "A clip's transcript as WebVTT",
    gives: "text/vtt",
  }),
  changeClipWords: endpoint<ClipView>()({
    method: "PUT",
    path: "/api/clips/{clipId}/words",
    for: "signed-in",
    summary: "Correct a transcript, or show a title or nothing in its place",
    ifMatch: true,
    body: object({
      shows: string().oneOf(SHOWS).required(),
      title: string().max(120, "A title has 120 characters at most.").defined(),
      text: string()
        .max(20_000, "A transcript has 20,000 characters at most.")
        .nullable()
        .defined(),
    }).noUnknown(),
  }),
  bringClipWords: endpoint<ClipView>()({
    method: "POST",
    path: "/api/clips/{clipId}/words",
    for: "signed-in",
    summary: "Take the words from a WebVTT file",
    body: object({ vtt: string().required("The file is empty.").max(1_000_000) }).noUnknown(),
  }),
  clipHeard: endpoint<{ heard: true }>()({
    method: "POST",
    path: "/api/clips/{clipId}/heard",
    for: "signed-in",
    summary: "Note that the clip was heard to its end",
  }),
  moments: endpoint<never>()({
    method: "GET",
    path: "/api/items/{itemId}/notes",
    for: "signed-in",
    summary: "The notes on moments of a recording as WebVTT",
    gives: "text/vtt",
  }),
  bringMoments: endpoint<{ added: number; faults: string[] }>()({
    method: "POST",
    path: "/api/items/{itemId}/notes",
    for: "signed-in",
    summary: "Bring notes on moments in from WebVTT",
    body: object({ vtt: string().required("The file is empty.").max(1_000_000) }).noUnknown(),
  }),
  readAloud: endpoint<never>()({
    method: "POST",
    path: "/api/aloud",
    for: "signed-in",
    summary: "Hear a text",
    gives: "audio/webm",
    body: object({
      text: string()
        .trim()
        .required("There is nothing to read.")
        .max(6000, "6,000 characters are read at most."),
    }).noUnknown(),
  }),
} as const;
