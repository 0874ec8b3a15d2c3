import { error } from "selenium-webdriver";
import type { Browser } from "./browser";

/**
 * Types a date and a time into a field of the page, part by part, in the order in which dates are shown.
 *
 * @param of what the field is called; null: the first in the open dialog
 * @param wall the wall time, "2026-12-03T09:05"
 */
export async function typeWhen(browser: Browser, of: string | null, wall: string): Promise<void> {
  const [year, month, day, hour, minute] = wall.match(/\d+/g)!;
  const first =
    of === null ? "[role=dialog] [role=spinbutton]" : `[role=spinbutton][aria-label='day, ${of}']`;
  const press = async () => {
    const part = await browser.find(first);
    // Not behind what stays at the foot of the page.
    await browser.driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", part);
    await part.click();
  };
  // A page that is drawn anew meanwhile has another field there.
  await press().catch((fault: unknown) => {
    if (fault instanceof error.StaleElementReferenceError) return press();
    throw fault;
  });
  await browser.keys(...`${day}${month}${year}${hour}${minute}`);
}
