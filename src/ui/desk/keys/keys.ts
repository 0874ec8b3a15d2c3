/** All keys of the Desk, once: what the handler obeys and what the card lists. */
export const DESK_KEYS = [
  { key: "n", act: "next", words: "next piece" },
  { key: "p", act: "previous", words: "previous piece" },
  { key: "u", act: "unread", words: "next piece that waits" },
  { key: "ArrowRight", shown: "→", act: "word", words: "next word" },
  { key: "ArrowLeft", shown: "←", act: "wordBack", words: "previous word" },
  { key: "Shift+ArrowRight", shown: "Shift →", act: "longer", words: "one word more" },
  { key: "Shift+ArrowLeft", shown: "Shift ←", act: "shorter", words: "one word less" },
  { key: "Enter", act: "note", words: "note on the selected words" },
  { key: ";", act: "bank", words: "comment of the bank on the selected words" },
  { key: "q", act: "request", words: "note that asks for something" },
  { key: "d", act: "delete", words: "edit: take the words out" },
  { key: "e", act: "replace", words: "edit: other words instead" },
  { key: "i", act: "insert", words: "edit: put words in after the selection" },
  { key: "t", act: "tick", words: "tick" },
  { key: "x", act: "cross", words: "cross" },
  { key: "o", act: "overall", words: "overall note" },
  { key: "s", act: "score", words: "score" },
  { key: "c", act: "compare", words: "what changed since the last round" },
  { key: "h", act: "handBack", words: "hand back" },
  { key: "r", act: "revise", words: "hand back to revise" },
  { key: "z", act: "undo", words: "undo the last mark" },
  { key: "?", act: "keys", words: "this card" },
] as const;

export type DeskAct = (typeof DESK_KEYS)[number]["act"];

/** The act of a key press; null when the press belongs to a field, a button or the browser. */
export function actOf(event: KeyboardEvent): DeskAct | null {
  const target = event.target as HTMLElement | null;
  if (target?.closest("input, textarea, select, [contenteditable=true], [role=dialog], [role=menu]")) return null;
  if (event.key === "z" && (event.ctrlKey || event.metaKey)) return "undo";
  if (event.ctrlKey || event.metaKey || event.altKey) return null;
  if (event.key === "Enter" && target?.closest("button, a")) return null;
  const pressed = event.shiftKey && event.key.startsWith("Arrow") ? `Shift+${event.key}` : event.key;
  return DESK_KEYS.find((entry) => entry.key === pressed)?.act ?? null;
}
