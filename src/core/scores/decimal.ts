/** A number as it is typed, with a comma or a point, as decimal text. @example toDecimal(" 7,5 ") // "7.5" */
export const toDecimal = (text: string): string => text.trim().replace(",", ".");
