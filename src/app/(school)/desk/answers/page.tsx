import { notFound } from "next/navigation";
import { acrossQuestions } from "@/server/marking/judgements";
import { isId } from "@/core/ids";
import { pageCall, view } from "@/server/page";
import { ByQuestion } from "@/ui/desk/across/ByQuestion";

export const metadata = { title: "By question" };

export default async function AnswersPage({
  searchParams,
}: {
  searchParams: Promise<{ handOut?: string }>;
}) {
  const call = await pageCall("teacher");
  const { handOut } = await searchParams;
  if (!isId(handOut)) notFound();
  const across = await view(acrossQuestions(call, handOut));
  if (across.questions.length === 0) notFound();
  return <ByQuestion handOutId={handOut} first={across} />;
}
