/** A number as it is typed, with a comma or a point, as decimal text. @example toDecimal(" 7,5 ") // "7.5" */
export const toDecimal = (text: string): string => text.trim().replace(",", ".");

/** Decimal text without noughts that say nothing. @example trimmed("25.500") // "25.5" */
export const trimmed = (decimal: string): string =>
  decimal.includes(".") ? decimal.replace(/\.?0+$/, "") : decimal;
