/**
 * So many of a thing, in words that fit one of it too.
 *
 * @example sayCount(1, "student") // "1 student"
 * @example sayCount(3, "child", "children") // "3 children"
 */
export const sayCount = (n: number, one: string, more = `${one}s`): string =>
  `${n} ${n === 1 ? one : more}`;
