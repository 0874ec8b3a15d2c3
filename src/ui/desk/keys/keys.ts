/** All acts of the Desk with the keys they come with: what the handler obeys, what the card and the palette list. */
export const DESK_ACTS = [
  { act: "next", key: "n", words: "next piece", of: "the pile" },
  { act: "previous", key: "p", words: "previous piece", of: "the pile" },
  { act: "unread", key: "u", words: "next piece that waits", of: "the pile" },
  {
    act: "leave",
    key: "l",
    words: "leave as a draft, and on to the next that waits",
    of: "the pile",
  },
  { act: "handBack", key: "h", words: "hand back", of: "the pile" },
  { act: "revise", key: "r", words: "hand back to revise", of: "the pile" },
  { act: "flag", key: "f", words: "flag: away, unfinished, on paper, excused", of: "the pile" },
  { act: "word", key: "ArrowRight", words: "next word", of: "words" },
  { act: "wordBack", key: "ArrowLeft", words: "previous word", of: "words" },
  { act: "longer", key: "Shift+ArrowRight", words: "one word more", of: "words" },
  { act: "shorter", key: "Shift+ArrowLeft", words: "one word less", of: "words" },
  { act: "sentenceNext", key: "ArrowDown", words: "next sentence", of: "words" },
  { act: "sentenceBack", key: "ArrowUp", words: "previous sentence", of: "words" },
  { act: "note", key: "Enter", words: "note on what is selected", of: "marks" },
  { act: "bank", key: ";", words: "comment of the bank on what is selected", of: "marks" },
  { act: "request", key: "q", words: "note that asks for something", of: "marks" },
  { act: "praise", key: "y", words: "note that praises", of: "marks" },
  {
    act: "speak",
    key: "Shift+V",
    words: "voice note on what is selected, or on the whole",
    of: "marks",
  },
  { act: "whole", key: "w", words: "note on the whole sheet", of: "marks" },
  { act: "moment", key: "m", words: "note on this moment of the recording", of: "marks" },
  {
    act: "stretch",
    key: ",",
    words: "begin a stretch of the recording, and end it with a note",
    of: "marks",
  },
  { act: "play", key: "Shift+P", words: "play the recording, or stop it", of: "marks" },
  { act: "back", key: "Shift+B", words: "five seconds back in the recording", of: "marks" },
  { act: "delete", key: "d", words: "edit: take the words out", of: "marks" },
  { act: "replace", key: "e", words: "edit: other words instead", of: "marks" },
  { act: "insert", key: "i", words: "edit: put words in after the selection", of: "marks" },
  {
    act: "transpose",
    key: "Shift+T",
    words: "edit: change the first and last word round",
    of: "marks",
  },
  { act: "tick", key: "t", words: "stamp: tick", of: "marks" },
  { act: "cross", key: "x", words: "stamp: cross", of: "marks" },
  { act: "question", key: "j", words: "stamp: question", of: "marks" },
  { act: "star", key: "*", words: "stamp: star", of: "marks" },
  { act: "keep", key: "k", words: "keep the chosen note in the bank", of: "marks" },
  { act: "markNext", key: "]", words: "next mark", of: "marks" },
  { act: "markBack", key: "[", words: "previous mark", of: "marks" },
  { act: "change", key: "Shift+Enter", words: "change the chosen mark", of: "marks" },
  {
    act: "rehang",
    key: "Shift+M",
    words: "move the chosen mark onto the selected words",
    of: "marks",
  },
  { act: "remove", key: "Delete", words: "delete the chosen mark", of: "marks" },
  { act: "undo", key: "z", words: "undo", of: "marks" },
  { act: "redo", key: "Shift+Z", words: "do again", of: "marks" },
  { act: "toolWords", key: "v", words: "tool: words", of: "pages and pictures" },
  { act: "toolPin", key: "a", words: "tool: pin, or drag an area", of: "pages and pictures" },
  { act: "toolInk", key: "g", words: "tool: ink", of: "pages and pictures" },
  { act: "toolEraser", key: "Shift+G", words: "tool: eraser", of: "pages and pictures" },
  { act: "larger", key: "+", words: "larger", of: "pages and pictures" },
  { act: "smaller", key: "-", words: "smaller", of: "pages and pictures" },
  { act: "fit", key: "0", words: "as wide as the sheet", of: "pages and pictures" },
  { act: "wholePage", key: ".", words: "a whole page in view", of: "pages and pictures" },
  { act: "pageNext", key: "Shift+ArrowDown", words: "next page", of: "pages and pictures" },
  { act: "pageBack", key: "Shift+ArrowUp", words: "previous page", of: "pages and pictures" },
  { act: "goToPage", key: "#", words: "go to a page by its number", of: "pages and pictures" },
  {
    act: "turn",
    key: "Shift+R",
    words: "turn the page or picture in view, on the screen only",
    of: "pages and pictures",
  },
  { act: "overall", key: "o", words: "overall note", of: "feedback" },
  { act: "dock", key: "/", words: "search the comment bank", of: "feedback" },
  { act: "rubric", key: "b", words: "rubric", of: "feedback" },
  { act: "score", key: "s", words: "score", of: "feedback" },
  { act: "compare", key: "c", words: "what changed since the last round", of: "feedback" },
  {
    act: "beside",
    key: "\\",
    words: "open beside the work: task, versions, notes",
    of: "feedback",
  },
  { act: "palette", key: "Ctrl+K", words: "find an act, a piece or a comment", of: "feedback" },
  { act: "keys", key: "?", words: "this card", of: "feedback" },
] as const;

export type DeskAct = (typeof DESK_ACTS)[number]["act"];
/** Keys a teacher has set otherwise, by act. */
export type OwnKeys = Partial<Record<DeskAct, string>>;

export const keyOf = (act: DeskAct, own: OwnKeys): string =>
  own[act] ?? DESK_ACTS.find((a) => a.act === act)!.key;

/** A key press in the words of the list: "Ctrl+K", "Shift+Enter", "?". */
export function pressed(
  event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">,
): string {
  const { key } = event;
  const letter = key.length === 1;
  const parts = [
    event.ctrlKey || event.metaKey ? "Ctrl" : "",
    event.altKey ? "Alt" : "",
    event.shiftKey && (!letter || (/\p{L}/u.test(key) && !event.altKey)) ? "Shift" : "",
  ].filter(Boolean);
  const plain =
    letter && (parts.length > 0 || event.shiftKey) && /\p{L}/u.test(key) ? key.toUpperCase() : key;
  return [...parts, plain].join("+");
}

const SHOWN: Readonly<Record<string, string>> = {
  ArrowRight: "→",
  ArrowLeft: "←",
  ArrowUp: "↑",
  ArrowDown: "↓",
  Delete: "Del",
};
/** @example showKey("Shift+ArrowRight") // "Shift →" */
export const showKey = (key: string): string =>
  key === "+"
    ? "+"
    : key
        .split("+")
        .map((part) => SHOWN[part] ?? part)
        .join(" ");

/** Keys that belong to fields, dialogs and the browser whatever is set. */
const TAKEN = [
  "Tab",
  "Escape",
  "Shift+Tab",
  " ",
  "1",
  "2",
  "3",
  "4",
  "5",
  "6",
  "7",
  "8",
  "9",
  "Shift",
  "Control",
  "Alt",
  "Meta",
];

/** Why a key cannot be given to an act, or null. */
export function faultInKey(act: DeskAct, key: string, own: OwnKeys): string | null {
  if (TAKEN.includes(key)) return "This key is needed as it is.";
  const other = DESK_ACTS.find((a) => a.act !== act && keyOf(a.act, own) === key);
  return other ? `“${other.words}” has this key. Give that one another first.` : null;
}

/** The act of a key press; null when the press belongs to a field, a button or the browser. */
export function actOf(event: KeyboardEvent, own: OwnKeys): DeskAct | null {
  const target = event.target as HTMLElement | null;
  const key = pressed(event);
  const known = DESK_ACTS.find((entry) => keyOf(entry.act, own) === key)?.act ?? null;
  // What is pressed with Ctrl works everywhere on the Desk, in fields too.
  if (known === "palette" && key.startsWith("Ctrl")) return known;
  if (
    target?.closest("input, textarea, select, [contenteditable=true], [role=dialog], [role=menu]")
  )
    return null;
  if (key === "Ctrl+Z") return "undo";
  if (key === "Ctrl+Shift+Z" || key === "Ctrl+Y") return "redo";
  if (event.ctrlKey || event.metaKey || event.altKey)
    return known && key.startsWith("Ctrl") ? known : null;
  if ((event.key === "Enter" || event.key === " ") && target?.closest("button, a, summary"))
    return null;
  if (event.key.startsWith("Arrow") && target?.closest("audio, video, [data-arrows]")) return null;
  return known;
}
