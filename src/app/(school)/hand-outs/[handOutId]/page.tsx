import Link from "next/link";
import { handOutSheet } from "@/server/overview/sheet";
import { idFrom, pageCall, view } from "@/server/page";
import { SheetTable } from "@/ui/handouts/SheetTable";
import { RichText } from "@/ui/text/RichText";
import { History } from "@/ui/kit/History";

export const metadata = { title: "Hand-out" };

export default async function HandOutSheetPage({ params }: { params: Promise<{ handOutId: string }> }) {
  const call = await pageCall("teacher");
  const sheet = await view(handOutSheet(call, idFrom((await params).handOutId)));
  const waiting = sheet.lines.filter((line) => line.moon.state === "handed_in").length;
  return (
    <div className="mx-auto w-full max-w-[80rem] px-4 py-6 sm:px-6">
      <p className="text-sm">
        <Link href={`/sections/${sheet.sectionId}`}>
          ← {sheet.section}, {sheet.course}
        </Link>
      </p>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1>{sheet.title}</h1>
        {waiting > 0 ? (
          <Link href={`/desk?pile=waiting&handOut=${sheet.id}`} prefetch={false} className="ml-auto border border-tide bg-tide px-4 py-1.5 text-paper no-underline hover:opacity-90">
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
            ["counts", sheet.points ? `${sheet.points} points` : "words only"],
          ] as const
        ).map(([name, value]) => (
          <div key={name} className="flex gap-1.5">
            <dt className="label">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <details className="mb-6 max-w-2xl">
        <summary className="label cursor-pointer">The task</summary>
        <div className="mt-2">
          <RichText doc={sheet.instructions} />
        </div>
      </details>
      <SheetTable handOutId={sheet.id} lines={sheet.lines} />
      <details className="mt-10 max-w-2xl">
        <summary className="label cursor-pointer">What happened, when</summary>
        <History lines={sheet.history} />
      </details>
    </div>
  );
}
