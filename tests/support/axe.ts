import { source, type ElementContext, type RunOptions } from "axe-core";
import type { Browser } from "./browser";

type Found = { impact?: string | null; id: string; nodes: { html: string }[] };

/**
 * What axe-core finds serious on the page as it is shown. Only violations are listed with all their places: listing
 * what is right takes most of the time. Its program goes into each page once, and not once for every look.
 *
 * @returns one line for each rule, with the first places
 */
export async function seriousOn(
  { driver }: Browser,
  options: RunOptions,
  context: ElementContext = { include: [["html"]] },
): Promise<string[]> {
  if (!(await driver.executeScript<boolean>("return 'axe' in window")))
    await driver.executeScript(source);
  const found = await driver.executeAsyncScript<Found[] | string>(
    `const [context, options, done] = arguments;
    axe.run(context, options).then(({ violations }) => done(violations), (fault) => done(String(fault)));`,
    context,
    { resultTypes: ["violations"], ...options },
  );
  if (typeof found === "string") throw new Error(found);
  return found
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .map(
      (v) =>
        `${v.id}: ${v.nodes
          .slice(0, 3)
          .map((n) => n.html.slice(0, 160))
          .join(" | ")}`,
    );
}
