import { sayCount } from "@/core/text/sayCount";
import Link from "next/link";
import { classesToSignIn } from "@/server/auth/givePassword";
import { sectionView } from "@/server/overview/sections";
import { idFrom, pageCall, view } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";
import { FirstSteps } from "@/ui/sections/FirstSteps";
import { SectionOverTimeFold } from "@/ui/students/OverTime";
import { Page } from "@/ui/kit/Page";
import { MoonBoard, MoonKey } from "@/ui/sections/MoonBoard";

export const metadata = { title: "Section" };

export default async function SectionPage({ params }: { params: Promise<{ sectionId: string }> }) {
  const call = await pageCall();
  const section = await view(sectionView(call, idFrom((await params).sectionId)));
  const isNew = section.handOuts.length === 0 && section.mayHandOut;
  const [toSignIn = null] = isNew ? await classesToSignIn(call, section.id) : [];
  return (
    <Page width="table" title={`${section.name}, ${section.course}`}>
      <div className="mb-5 flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h1>{section.name}</h1>
        <p className="text-soft">
          {section.course} · {sayCount(section.roster.length, "student")} ·{" "}
          {section.teachers
            .map((t) => `${t.name}${t.role === "owner" ? "" : " (co-teacher)"}`)
            .join(", ")}
        </p>
        {section.mayHandOut ? (
          <p className="ml-auto flex gap-4">
            <Link href={`/ledger/${section.id}`}>Ledger</Link>
            <Link href={`/sections/${section.id}/set-up`}>Set up</Link>
            <Link
              href={`/hand-out?section=${section.id}`}
              className="border border-tide bg-tide px-4 py-1.5 text-paper no-underline hover:opacity-90"
            >
              Hand out
            </Link>
          </p>
        ) : null}
      </div>
      {section.handOuts.length === 0 && call.who.kind === "teacher" ? (
        <Empty title="Nothing has been handed out to this section yet">
          {section.mayHandOut ? (
            <FirstSteps section={section} toSignIn={toSignIn} />
          ) : (
            "Its owner hands out."
          )}
        </Empty>
      ) : null}
      <MoonBoard view={section} />
      {section.handOuts.length > 0 ? <MoonKey /> : null}
      {section.handOuts.length > 0 && call.who.kind === "teacher" ? (
        <SectionOverTimeFold sectionId={section.id} />
      ) : null}
    </Page>
  );
}
