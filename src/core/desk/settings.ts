import { HOLDS } from "../handingBack/outcome";
import { isId } from "../ids";
import { QUEUE_ORDERS } from "./queueOrder";

export const STRIP_LOOKS = ["names", "moons"] as const;
export type StripLook = (typeof STRIP_LOOKS)[number];

/** What a single letter does as a key: its act; nothing; or its act after Ctrl+. (WCAG 2.2, 2.1.4). */
export const LETTER_KEYS = ["on", "chord", "off"] as const;
export type LetterKeys = (typeof LETTER_KEYS)[number];

/** The margin of the Desk, in px. */
export const MARGIN_WIDTHS = { least: 192, usual: 320, most: 480 } as const;

/** What a person has set for themselves, each with the shape it must have. */
export type OwnSettings = {
  /** Keys by the id of the command. */ "desk.keys": Record<string, string>;
  "desk.stamps": string[];
  "desk.order": (typeof QUEUE_ORDERS)[number];
  "desk.place": { pile: string; handOut: string | null; piece: string; scroll: number };
  /** Seconds in which what goes back can be called back. */
  "desk.hold": (typeof HOLDS)[number];
  /** The strip of the Desk. */ "desk.strip": StripLook;
  /** How wide the notes of the Desk are, in px. */ "desk.margin": number;
  letters: LetterKeys;
  aloud: "on" | "off";
  /** The screens whose use was explained to them, by their addresses; "*": all. */ guides: string[];
};
export type OwnSetting = keyof OwnSettings;

type Fields = Record<string, unknown>;
const isFields = (given: unknown): given is Fields =>
  typeof given === "object" && given !== null && !Array.isArray(given);
const isText = (given: unknown, most: number) => typeof given === "string" && given.length <= most;

const SHAPES: Record<OwnSetting, (given: unknown) => boolean> = {
  "desk.keys": (given) =>
    isFields(given) &&
    Object.keys(given).length <= 100 &&
    Object.values(given).every((key) => isText(key, 40)),
  "desk.stamps": (given) =>
    Array.isArray(given) && given.length <= 40 && given.every((text) => isText(text, 200)),
  "desk.order": (given) => (QUEUE_ORDERS as readonly unknown[]).includes(given),
  "desk.place": (given) =>
    isFields(given) &&
    isText(given.pile, 20) &&
    (given.handOut === null || isId(given.handOut)) &&
    isId(given.piece) &&
    typeof given.scroll === "number",
  "desk.hold": (given) => (HOLDS as readonly unknown[]).includes(given),
  "desk.strip": (given) => (STRIP_LOOKS as readonly unknown[]).includes(given),
  "desk.margin": (given) =>
    Number.isInteger(given) &&
    (given as number) >= MARGIN_WIDTHS.least &&
    (given as number) <= MARGIN_WIDTHS.most,
  letters: (given) => (LETTER_KEYS as readonly unknown[]).includes(given),
  aloud: (given) => given === "on" || given === "off",
  guides: (given) =>
    Array.isArray(given) && given.length <= 200 && given.every((screen) => isText(screen, 100)),
};

/**
 * Whether a value can be kept under a name. It is asked again when it is read: what another version kept, or a
 * program, must not keep a page from opening.
 */
export const isSetting = (name: OwnSetting, value: unknown): boolean => SHAPES[name](value);

/** Of what was kept, what can be used. */
export function usableSettings(
  kept: readonly { name: string; value: unknown }[],
): Partial<OwnSettings> {
  const usable = kept.filter(
    ({ name, value }) => Object.hasOwn(SHAPES, name) && isSetting(name as OwnSetting, value),
  );
  return Object.fromEntries(usable.map(({ name, value }) => [name, value]));
}
