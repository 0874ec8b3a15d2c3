import Link from "next/link";
import { notFound } from "next/navigation";
import { handOutFormView } from "@/server/handouts/formView";
import { planOf } from "@/server/handouts/planOf";
import { handOutSheet } from "@/server/overview/sheet";
import { idFrom, pageCall, view } from "@/server/page";
import { mayHear, OWN_SECONDS } from "@/server/speech/clips";
import { ClipsProvider } from "@/ui/voice/clips";
import { Page } from "@/ui/kit/Page";
import { HandOutPage } from "@/ui/handouts/form/HandOutPage";

export const metadata = { title: "Change a hand-out" };

export default async function ChangeHandOutPage({
  params,
}: {
  params: Promise<{ handOutId: string }>;
}) {
  const call = await pageCall("teacher");
  const handOutId = idFrom((await params).handOutId);
  const sheet = await view(handOutSheet(call, handOutId));
  if (!sheet.mayChange) notFound();
  const [form, plan] = await Promise.all([handOutFormView(call), planOf(call, handOutId)]);
  const clips = await mayHear(call, [plan.work.clipId]);
  return (
    <Page width="table" title={`Change: ${sheet.title}, ${sheet.section}`}>
      <p className="text-sm">
        <Link href={`/hand-outs/${handOutId}`}>
          ← {sheet.title}, {sheet.section}
        </Link>
      </p>
      <h1 className="mt-2 mb-6">Change what was handed out</h1>
      <ClipsProvider clips={clips} mostSeconds={OWN_SECONDS}>
        <HandOutPage
          form={form}
          first={{ work: plan.work, rows: plan.rows, counting: plan.counting }}
          draft={null}
          editing={{
            handOutId,
            revision: sheet.revision,
            alsoIn: sheet.alsoIn.map((o) => o.section),
            scored: sheet.lines.some((l) => l.score !== null),
            touched: {
              students: sheet.lines.length,
              ownDue: sheet.lines.filter((l) => l.ownDue?.from === "teacher").length,
              begun: sheet.lines.filter((l) => l.moon.state !== "not_opened").length,
              handedIn: sheet.lines.filter((l) => l.moon.state === "handed_in").length,
            },
          }}
        />
      </ClipsProvider>
    </Page>
  );
}
