import type { Browser } from "./browser";

/**
 * Types a date and a time into a field of the page, part by part, in the order in which dates are shown.
 *
 * @param of what the field is called
 * @param wall the wall time, "2026-12-03T09:05"
 */
export async function typeWhen(browser: Browser, of: string, wall: string): Promise<void> {
  const [year, month, day, hour, minute] = wall.match(/\d+/g)!;
  await (await browser.find(`[role=spinbutton][aria-label^='day, '][aria-label$='${of}']`)).click();
  await browser.keys(...`${day}${month}${year}${hour}${minute}`);
}
