import { DESK_COMMANDS, type CommandId } from "./commands";

/** Keys a teacher has set otherwise, by act. */
export type OwnKeys = Partial<Record<CommandId, string>>;

export const keyOf = (act: CommandId, own: OwnKeys): string =>
  own[act] ?? DESK_COMMANDS.find((c) => c.id === act)!.key;

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

/** Pressed on the way to another key. */
export const ALONE: readonly string[] = ["Shift", "Control", "Alt", "Meta"];

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
  ...ALONE,
];

/** Why a key cannot be given to an act, or null. */
export function faultInKey(act: CommandId, key: string, own: OwnKeys): string | null {
  if (TAKEN.includes(key) || key === CHORD) return "This key is needed as it is.";
  if (OF_BROWSERS.test(key)) return "Browsers keep this key for themselves.";
  const other = DESK_COMMANDS.find((c) => c.id !== act && keyOf(c.id, own) === key);
  return other ? `“${other.words}” has this key. Give that one another first.` : null;
}

const FIELDS = "input, textarea, select, [contenteditable=true], [role=dialog], [role=menu]";
/** Undoing has a key of its own, and those that people know. */
const KNOWN: Readonly<Record<string, CommandId>> = {
  "Ctrl+Z": "undo",
  "Ctrl+Shift+Z": "redo",
  "Ctrl+Y": "redo",
};

/** Whether a press belongs to what has the focus: a button, a link, a player. */
function belongsTo(target: HTMLElement | null, { key }: KeyboardEvent): boolean {
  const presses = key === "Enter" || key === " ";
  if (presses && target?.closest("button, a, summary")) return true;
  return key.startsWith("Arrow") && Boolean(target?.closest("audio, video, [data-arrows]"));
}

/** Before a letter, where a teacher wants letters to do nothing alone. */
export const CHORD = "Ctrl+.";

/** Whether a press is of one printable sign alone, with Shift or without (WCAG 2.2, 2.1.4, Character Key Shortcuts). */
export const isLetter = (key: string): boolean => [...key.replace(/^Shift\+/, "")].length === 1;

/** Keys that browsers keep for themselves on some system, whatever a page does: no act can have them. */
const OF_BROWSERS =
  /^(Ctrl\+(Shift\+)?[TNWQ]|Ctrl\+[LRPSDHJUOFG1-9]|Alt\+([DEF]|ArrowLeft|ArrowRight|Home)|F([1-9]|1[0-2]))$/;

/** What else takes a key in some browser or reader; null: nothing known. From memory, no source. */
export function collides(key: string): string | null {
  if (key === "/" || key === "'") return "some browsers search the page with it";
  if (key === "Ctrl+K") return "some browsers go to their search field with it";
  return null;
}

/** The act of a key press; null when the press belongs to a field, a button or the browser. */
export function actOf(event: KeyboardEvent, own: OwnKeys): CommandId | null {
  const target = event.target as HTMLElement | null;
  const key = pressed(event);
  const known = DESK_COMMANDS.find((entry) => keyOf(entry.id, own) === key)?.id ?? null;
  // What is pressed with Ctrl works everywhere on the Desk, in fields too.
  const withCtrl = key.startsWith("Ctrl") ? known : null;
  if (withCtrl === "palette") return withCtrl;
  if (target?.closest(FIELDS)) return null;
  if (KNOWN[key]) return KNOWN[key];
  if (event.ctrlKey || event.metaKey || event.altKey) return withCtrl;
  return belongsTo(target, event) ? null : known;
}
