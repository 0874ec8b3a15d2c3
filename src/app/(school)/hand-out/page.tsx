import { newPlan, readDraft } from "@/server/handouts/drafts";
import { handOutFormView } from "@/server/handouts/formView";
import { isId } from "@/core/ids";
import { pageCall, view } from "@/server/page";
import { mayHear, OWN_SECONDS } from "@/server/speech/clips";
import { ClipsProvider } from "@/ui/voice/clips";
import { Page } from "@/ui/kit/Page";
import { HandOutPage } from "@/ui/handouts/form/HandOutPage";

export const metadata = { title: "Hand out" };

export default async function NewHandOutPage({
  searchParams,
}: {
  searchParams: Promise<{ section?: string; draft?: string }>;
}) {
  const call = await pageCall("teacher");
  const asked = await searchParams;
  const form = await view(handOutFormView(call));
  const draft = isId(asked.draft) ? await view(readDraft(call, asked.draft)) : null;
  // Who has one section alone means that one.
  const sections = form.sections
    .filter((s) => s.id === asked.section || form.sections.length === 1)
    .map((s) => s.id);
  const plan = draft?.plan ?? (await newPlan(call, sections));
  const clips = await mayHear(call, [plan.work.clipId]);
  return (
    <Page width="table">
      <h1 className="mb-6">{draft ? "Hand out: a draft" : "Hand out"}</h1>
      <ClipsProvider clips={clips} mostSeconds={OWN_SECONDS}>
        <HandOutPage
          key={draft?.id ?? "new"}
          form={form}
          first={plan}
          draft={draft && { id: draft.id, revision: draft.revision, kept: draft.kept }}
          editing={null}
        />
      </ClipsProvider>
    </Page>
  );
}
