import { notFound } from "next/navigation";
import { acrossCriterion } from "@/server/desk/across";
import { isId, pageCall, view } from "@/server/page";
import { ByCriterion } from "@/ui/desk/across/ByCriterion";

export const metadata = { title: "By criterion" };

export default async function CriterionPage({ searchParams }: { searchParams: Promise<{ handOut?: string; criterion?: string }> }) {
  const call = await pageCall("teacher");
  const { handOut, criterion } = await searchParams;
  if (!isId(handOut)) notFound();
  const asked = isId(criterion) ? criterion : null;
  const whole = await view(acrossCriterion(call, handOut, asked));
  const chosen = whole.rubric.rubric.criteria.find((c) => c.id === asked) ?? whole.rubric.rubric.criteria[0]!;
  const across = chosen.id === asked ? whole : await acrossCriterion(call, handOut, chosen.id);
  return <ByCriterion key={chosen.id} handOutId={handOut} criterion={chosen} across={across} />;
}
