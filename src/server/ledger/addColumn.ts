import { emptyPlan } from "@/core/handouts/plan";
import type { CategoryShows } from "@/core/ledger/shows";
import { Invalid } from "@/core/refusals";
import type { Call } from "../call";
import { handOut } from "../handouts/handOut";

export type GivenColumn = {
  title: string;
  points: string;
  on: string;
  category: string;
  /** When students see its scores; nothing: as its category says. */ shows?: CategoryShows | null;
};

/** Work off the screen is scored on its day; nothing is handed in, so the hour says nothing to anybody. */
const HOUR = "12:00";

/**
 * A column for work off the screen: an assignment on paper, given to the whole section, due on that day, which may be over.
 *
 * @throws Invalid by the field of the form
 */
export async function addColumn(
  call: Call,
  sectionId: string,
  { title, points, on, category, shows = null }: GivenColumn,
): Promise<{ handOutId: string }> {
  const row = {
    ...{ sectionId, opens: null, due: `${on}T${HOUR}`, closes: null, promised: null },
    ...{ audience: { kind: "section" as const }, exceptions: [] },
  };
  const plan = emptyPlan([row]);
  const work = { ...plan.work, title, parts: [] };
  const counting = { ...plan.counting, points, category };
  try {
    const given = { plan: { ...plan, work, counting }, draftId: null, pastIsMeant: true };
    const { handOuts } = await handOut(call, given);
    const handOutId = handOuts[0]!.id;
    await call.tx`
      update hand_out
      set shows_by = ${call.who.id},
        shows = coalesce(${shows}, (select shows from category where category.id = hand_out.category_id), 'by hand')
      where id = ${handOutId}`;
    return { handOutId };
  } catch (error) {
    throw error instanceof Invalid ? new Invalid(byFieldOfForm(error.fields)) : error;
  }
}

/** The form has four fields; a fault of the plan is said at the one it comes from. */
function byFieldOfForm(fields: Readonly<Record<string, string>>): Record<string, string> {
  const names = ["title", "points", "category", "due"];
  return Object.fromEntries(
    Object.entries(fields).map(([field, words]) => {
      const name = names.find((one) => field.endsWith(one)) ?? "title";
      return [name === "due" ? "on" : name, words];
    }),
  );
}
