import { shorten } from "@/core/text/shorten";
import Link from "next/link";
import { sayCameUp } from "@/core/sectionNotes/cameUp";
import { sectionList } from "@/server/overview/sections";
import { handOutSheet } from "@/server/overview/sheet";
import { readShownOfSheet } from "@/server/looks/ofSheet";
import { readCameUp } from "@/server/sectionNotes/cameUp";
import { readSectionNotes } from "@/server/sectionNotes/sectionNotes";
import { idFrom, pageCall, view } from "@/server/page";
import { Live } from "@/ui/live/Live";
import { SheetActs } from "@/ui/handouts/SheetActs";
import { Others } from "@/ui/handouts/StudentActs";
import { Figures } from "@/ui/handouts/Figures";
import { GoingBack } from "@/ui/handouts/GoingBack";
import { SheetTable } from "@/ui/handouts/SheetTable";
import { OverTimeLine } from "@/ui/students/OverTime";
import { ShownInShort, ShownOfSheet } from "@/ui/looks/ShownOfSheet";
import { ClassOfSheet } from "@/ui/sectionNotes/ClassOfSheet";
import { RichText } from "@/ui/text/RichText";
import { Page } from "@/ui/kit/Page";
import { History } from "@/ui/kit/History";

export const metadata = { title: "Hand-out" };

export default async function HandOutSheetPage({
  params,
  searchParams,
}: {
  params: Promise<{ handOutId: string }>;
  searchParams: Promise<{ changed?: string }>;
}) {
  const call = await pageCall("teacher");
  const sheet = await view(handOutSheet(call, idFrom((await params).handOutId)));
  const [sections, toClass, shown, cameUp, { changed }] = await Promise.all([
    sectionList(call),
    readSectionNotes(call, sheet.id),
    readShownOfSheet(call, sheet.id),
    readCameUp(call, sheet.id),
    searchParams,
  ]);
  const unread = toClass.notes
    .flatMap((note) => note.answers)
    .filter((answer) => answer.state === "waits").length;
  const waiting = sheet.lines.filter((line) => line.moon.state === "handed_in").length;
  return (
    <Page width="table" title={`${sheet.title}, ${sheet.section}`}>
      <Live />
      <p className="text-sm">
        <Link href={`/sections/${sheet.sectionId}`}>
          ← {sheet.section}, {sheet.course}
        </Link>
      </p>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1>{sheet.title}</h1>
        {waiting > 0 ? (
          <Link
            href={`/desk?pile=waiting&handOut=${sheet.id}`}
            prefetch={false}
            className="no-print ml-auto border border-tide bg-tide px-4 py-1.5 text-paper no-underline hover:opacity-90"
          >
            {waiting} to the Desk
          </Link>
        ) : null}
      </div>
      <dl className="mt-2 mb-4 flex flex-wrap gap-x-6 gap-y-1 text-sm">
        {(
          [
            ["opens", sheet.opens],
            ["due", sheet.due],
            ["grace", sheet.grace ? `${sheet.grace} min` : "none"],
            ["closes", sheet.closes ?? "never"],
            ["promised back", sheet.promised ?? "no date"],
            [
              "counts",
              [sheet.points ? `${sheet.points} points` : "", sheet.counting, sheet.category ?? ""]
                .filter(Boolean)
                .join(", ") || "words only",
            ],
            ["rounds", sheet.rounds],
          ] as const
        ).map(([name, value]) => (
          <div key={name} className="flex gap-1.5">
            <dt className="label">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <p className="mb-4 text-sm text-soft">
        {sheet.late}
        {sheet.alsoIn.length > 0 ? " Also handed out to " : ""}
        {sheet.alsoIn.map((other) => (
          <Link key={other.id} href={`/hand-outs/${other.id}`} prefetch={false} className="mr-2">
            {other.section}
          </Link>
        ))}
      </p>
      {cameUp.length > 0 ? (
        <p className="mb-1 text-sm">
          <a href="#to-the-class">
            “{shorten(cameUp[0]!.text, 60)}” came up {sayCameUp(cameUp[0]!)}
          </a>
          {cameUp.length > 1 ? (
            <span className="text-soft"> and {cameUp.length - 1} more</span>
          ) : null}
        </p>
      ) : null}
      {toClass.notes.length > 0 ? (
        <p className="mb-4 text-sm">
          <a href="#to-the-class">
            {toClass.notes.length} {toClass.notes.length === 1 ? "word" : "words"} to the class
          </a>
          {unread > 0 ? (
            <strong className="ml-2 text-ember">
              ▲ {unread === 1 ? "an answer waits" : `${unread} answers wait`} to be read
            </strong>
          ) : null}
        </p>
      ) : null}
      <ShownInShort view={shown} />
      <details className="mb-6 max-w-2xl">
        <summary className="label cursor-pointer">The task</summary>
        <div className="mt-2">
          <RichText doc={sheet.instructions} />
        </div>
      </details>
      <SheetActs
        sheet={sheet}
        sections={sections
          .filter((s) => s.role === "owner" || s.id === sheet.sectionId)
          .map(({ id, name }) => ({ id, name }))}
        told={changed && /^(\d{1,4}|nothing)$/.test(changed) ? changed : null}
      />
      <GoingBack sheet={sheet} />
      <SheetTable sheet={sheet} />
      <Others sheet={sheet} />
      {sheet.overTime.asked > 0 ? (
        <section aria-label="Requests and rounds" className="mt-10">
          <h2>Requests and rounds</h2>
          <OverTimeLine overTime={sheet.overTime} />
        </section>
      ) : null}
      <Figures handOutId={sheet.id} />
      <ShownOfSheet handOutId={sheet.id} view={shown} />
      <div id="to-the-class" className="mt-10 max-w-2xl scroll-mt-4">
        <ClassOfSheet first={toClass} cameUp={cameUp} />
      </div>
      <details className="mt-10 max-w-2xl">
        <summary className="label cursor-pointer">What happened, when</summary>
        <History lines={sheet.history} />
      </details>
    </Page>
  );
}
