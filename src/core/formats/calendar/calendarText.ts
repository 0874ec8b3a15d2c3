/**
 * The text of an iCalendar file from its bytes. Lines are folded by octets (RFC 5545, section 3.1), and some programs
 * fold in the middle of a character; so lines are joined before the bytes are read as UTF-8.
 *
 * @example calendarText(bytes of "SUMMARY:Fer\xc3 \r\n \xa9ri\xc3\xa9s") // "SUMMARY:Fériés"
 */
export function calendarText(bytes: Uint8Array): string {
  const joined = new Uint8Array(bytes.length);
  let length = 0;
  for (let n = 0; n < bytes.length; n += 1) {
    const fold = foldAt(bytes, n);
    if (fold > 0) n += fold - 1;
    else joined[length++] = bytes[n]!;
  }
  return new TextDecoder("utf-8").decode(joined.subarray(0, length));
}

const [CR, LF, SPACE, TAB] = [13, 10, 32, 9];

/** How many octets the fold has that begins here; 0: none. */
function foldAt(bytes: Uint8Array, at: number): number {
  const line = bytes[at] === CR && bytes[at + 1] === LF ? 2 : Number(bytes[at] === LF);
  const next = bytes[at + line];
  return line > 0 && (next === SPACE || next === TAB) ? line + 1 : 0;
}
