import type { Place, Stroke } from "../../src/core/marks/place";
import { startApp } from "./app";
import { openBrowser } from "./browser";
import { testDatabase } from "./database";
import { everyKind } from "./everyKind";

/** A mark as the database has it. */
export type MarkRow = {
  kind: string;
  nature: string;
  quote: string;
  body: string;
  replacement: string;
  place: Place | null;
  strokes: Stroke[];
  points: string | null;
};
export type AtDesk = Awaited<ReturnType<typeof atDesk>>;

/** The demo school with a piece of every kind, and Odalys Brandt at the Desk in a browser. */
export async function atDesk() {
  const database = await testDatabase("almanac_demo");
  const made = await everyKind(database.sql);
  const app = await startApp(database.url);
  const browser = await openBrowser(app.origin);
  await browser.enterAs(made.odalys.id);
  const { driver } = browser;
  const marks = (pieceId = made.pieceId) =>
    database.sql<
      MarkRow[]
    >`select kind, nature, quote, body, replacement, place, strokes, points from mark where piece_id = ${pieceId} and deleted_at is null order by created_at, id`;
  const until = (what: string, work: () => Promise<boolean>) => driver.wait(work, 30_000, what);
  return {
    database,
    app,
    browser,
    made,
    marks,
    until,
    markCount: (n: number, pieceId?: string) =>
      until(`${n} marks`, async () => (await marks(pieceId)).length === n),
    /** The Desk knows of the selection: the favourites of the bank can be put on it. */
    selected: () =>
      until("the selection is known", () =>
        driver.executeScript<boolean>(
          "return document.querySelector('[aria-label=Tray] [aria-disabled=false] kbd') !== null",
        ),
      ),
    async openPiece(pieceId: string) {
      await browser.go(`/desk?pile=all&handOut=${made.handOutId}&piece=${pieceId}`);
      await browser.awake("[data-sheet]");
    },
    /** Selects from the first of one text to the end of another, as a pointer would. */
    select: (from: string, to = from, root = "[data-sheet]") =>
      driver.executeScript(
        `const [from, to, css] = arguments; const root = document.querySelector(css);
         const at = (words, end) => { const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT); for (let n; (n = walker.nextNode()); ) { const i = n.data.indexOf(words); if (i !== -1) return [n, end ? i + words.length : i]; } throw new Error("no " + words); };
         const range = document.createRange(); range.setStart(...at(from, false)); range.setEnd(...at(to, true)); const s = getSelection(); s.removeAllRanges(); s.addRange(range);`,
        from,
        to,
        root,
      ),
    /** A place on the screen when nothing moves it any more. */
    async still(look: () => Promise<[number, number]>): Promise<[number, number]> {
      let place = await look();
      for (let same = 0, looks = 0; same < 3 && looks < 25; looks += 1) {
        await driver.sleep(200);
        const now = await look();
        same = Math.hypot(now[0] - place[0], now[1] - place[1]) < 0.5 ? same + 1 : 0;
        place = now;
      }
      return place;
    },
    async close() {
      await browser.close();
      await app.stop();
      await database.drop();
    },
  };
}
