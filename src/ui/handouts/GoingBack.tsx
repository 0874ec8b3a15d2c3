import Link from "next/link";
import { sayCount } from "@/core/text/sayCount";
import type { HandOutSheet } from "@/core/views/overviewViews";

/** What goes back at a time and what went back last, with the way to call or take it back. */
export function GoingBack({ sheet }: { sheet: HandOutSheet }) {
  const { going, readBy } = sheet;
  if (going.length === 0 && readBy === null) return null;
  return (
    <div className="mb-4 border-l-2 border-tide pl-3 text-sm">
      {going.map((act) => (
        <p key={act.batchId}>
          {sayCount(act.pieces, "piece")} of this {act.words}.{" "}
          <Link href={`/hand-back?act=${act.batchId}&handOut=${sheet.id}`} prefetch={false}>
            {act.waits ? "See it, or call it back" : "See it, or take it back"}
          </Link>
        </p>
      ))}
      {readBy ? <p>{readBy}</p> : null}
    </div>
  );
}
