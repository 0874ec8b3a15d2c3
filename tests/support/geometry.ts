import type { Browser } from "./browser";

/** How large the page is seen, in CSS px; a page at 400 % is one of a quarter of the size. */
type Size = { width: number; height: number };

const send = (browser: Browser, name: string, args: object) =>
  (
    browser.driver as unknown as {
      sendDevToolsCommand: (name: string, args: object) => Promise<void>;
    }
  ).sendDevToolsCommand(name, args);

/** What the device says of itself (Media Queries Level 5), by feature; nothing: as it is. */
export const emulate = (browser: Browser, features: Readonly<Record<string, string>>) =>
  send(browser, "Emulation.setEmulatedMedia", {
    features: Object.entries(features).map(([name, value]) => ({ name, value })),
  });

/** As browsers of the tests are opened. */
export const LAPTOP = { width: 1280, height: 800 };

const resize = (browser: Browser, size: Size) =>
  send(browser, "Emulation.setDeviceMetricsOverride", {
    ...size,
    deviceScaleFactor: 1,
    mobile: false,
  });

/** Shows the page at a size; what is measured in one frame is placed in the next, so two are waited for. */
export async function setSize(browser: Browser, size: Size): Promise<void> {
  await resize(browser, size);
  await browser.driver.executeAsyncScript(
    "const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(() => done()))",
  );
}

/** Does something with the page at another size, and gives it its own back. */
export async function atSize<T>(browser: Browser, size: Size, work: () => Promise<T>): Promise<T> {
  await setSize(browser, size);
  try {
    return await work();
  } finally {
    await resize(browser, LAPTOP);
  }
}

/** What scrolls the whole page sideways as it is shown; nothing should (WCAG 2.2, 1.4.10, Reflow). */
export const sideways = (browser: Browser): Promise<string[]> =>
  browser.driver.executeScript<string[]>(SIDEWAYS);

/** The same at each of these widths. The page is left at the last of them. */
export async function sidewaysAt(browser: Browser, widths: readonly number[]): Promise<string[]> {
  const found: string[] = [];
  for (const width of widths) {
    await setSize(browser, { width, height: 800 });
    found.push(...(await sideways(browser)));
  }
  return found;
}

const SIDEWAYS = `
  const over = document.documentElement.scrollWidth - innerWidth;
  if (over <= 0) return [];
  const framed = (e) => {
    for (let at = e.parentElement; at; at = at.parentElement)
      if (getComputedStyle(at).overflowX !== "visible") return true;
    return false;
  };
  const wide = [...document.querySelectorAll("body *")]
    .filter((e) => e.getBoundingClientRect().right > innerWidth + 1 && e.checkVisibility() && !framed(e))
    .slice(0, 4)
    .map((e) => e.tagName + "." + String(e.className).slice(0, 80) + " to " + Math.round(e.getBoundingClientRect().right) + ": " + e.textContent.slice(0, 30));
  return [innerWidth + " px: " + over + " too wide. " + wide.join(" | ")];`;

/** Bars that stay in view while the page is scrolled and take a fifth of the height or more. */
export const tallBars = (browser: Browser): Promise<string[]> =>
  browser.driver.executeScript<string[]>(
    `return [...document.querySelectorAll("body *")]
      .filter((e) => ["sticky", "fixed"].includes(getComputedStyle(e).position) && e.checkVisibility() && !e.closest("[role=dialog], .sr-only"))
      .filter((e) => { const r = e.getBoundingClientRect(); return r.width > innerWidth / 2 && r.height >= innerHeight / 5; })
      .map((e) => e.tagName + "." + String(e.className).slice(0, 90) + " " + Math.round(e.getBoundingClientRect().height) + " of " + innerHeight);`,
  );

/** What can have the focus and, having it, lies behind something that stays in view (WCAG 2.2, 2.4.11 and 2.4.12, Focus Not Obscured). */
export const behindBars = (browser: Browser): Promise<string[]> =>
  browser.driver.executeScript<string[]>(BEHIND);

const BEHIND = `
  const stops = [...document.querySelectorAll("main :is(a[href], button, input, select, textarea, summary, [tabindex='0'])")]
    .filter((e) => e.checkVisibility({ visibilityProperty: true, opacityProperty: true }) && !e.disabled && e.tabIndex >= 0 && !e.closest(".sr-only") && !e.classList.contains("sr-only"));
  const stays = (e) => { for (let at = e; at && at !== document.body; at = at.parentElement) if (["sticky", "fixed"].includes(getComputedStyle(at).position)) return at; return null; };
  const found = [];
  // Evenly among many: each look makes the browser lay the page out.
  const every = Math.max(1, Math.ceil(stops.length / 60));
  for (const stop of stops.filter((_, n) => n % every === 0)) {
    stop.focus();
    if (document.activeElement !== stop) continue;
    const r = stop.getBoundingClientRect();
    if (r.width < 2 || r.height < 2 || r.height > innerHeight || r.width > innerWidth) continue;
    const x = r.left + r.width / 2, y = r.top + r.height / 2;
    const over = document.elementFromPoint(x, y);
    if (!over || over === stop || stop.contains(over) || over.contains(stop)) continue;
    const bar = stays(over);
    if (bar && !bar.contains(stop)) found.push(stop.tagName + " " + (stop.getAttribute("aria-label") || stop.textContent || stop.id).slice(0, 40) + " behind " + bar.tagName + "." + String(bar.className).slice(0, 80));
  }
  return found.slice(0, 5);`;
