import { notFound } from "next/navigation";
import { acrossCriterion } from "@/server/marking/across";
import { isId } from "@/core/ids";
import { pageCall, view } from "@/server/page";
import { ByCriterion } from "@/ui/desk/across/ByCriterion";

export const metadata = { title: "By criterion" };

export default async function CriterionPage({
  searchParams,
}: {
  searchParams: Promise<{ handOut?: string; criterion?: string }>;
}) {
  const call = await pageCall("teacher");
  const { handOut, criterion } = await searchParams;
  if (!isId(handOut)) notFound();
  const across = await view(acrossCriterion(call, handOut, isId(criterion) ? criterion : null));
  return <ByCriterion key={across.criterionId} handOutId={handOut} across={across} />;
}
