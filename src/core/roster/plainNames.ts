import { splitName } from "./roster";

/** What a person signs in with who has no address. @example signInName("Zoë Ní Bhriain") // "zoe.ni.bhriain" */
export function signInName(name: string): string {
  return name
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ".")
    .replace(/^\.+|\.+$/g, "")
    .normalize("NFC")
    .slice(0, 60);
}

/** Two of one name in one list are two people. */
export function freeName(name: string, seen: ReadonlyMap<string, unknown>): string {
  let free = name;
  for (let n = 2; seen.has(free); n += 1) free = `${name}.${n}`;
  return free;
}

/** A name in one column ("Family, Given" too) or in two. */
export function nameIn(cell: (key: string) => string): {
  given: string;
  family: string;
  name: string;
} {
  const whole = cell("name");
  const parts = whole ? splitName(whole) : { given: cell("given"), family: cell("family") };
  // Someone of one name has it in both columns, where a form asked for both.
  const family = parts.family === parts.given ? "" : parts.family;
  const joined = [parts.given, family].filter(Boolean).join(" ");
  return { ...parts, family, name: whole.includes(",") || !whole ? joined : whole };
}
