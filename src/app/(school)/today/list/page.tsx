import Link from "next/link";
import { tickList } from "@/server/overview/tickList";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";
import { Page } from "@/ui/kit/Page";
import { TickList } from "@/ui/today/TickList";

export const metadata = { title: "To tick off" };

/** Everything that waits, piece by piece, across all sections: for those who like lists. */
export default async function TickListPage() {
  const lines = await tickList(await pageCall("teacher"));
  return (
    <Page width="table">
      <p>
        <Link
          href="/today"
          prefetch={false}
          className="inline-flex min-h-6 items-center max-sm:min-h-11"
        >
          ← Today
        </Link>
      </p>
      <h1>To tick off</h1>
      <p className="mt-1 text-soft">
        Piece by piece, the oldest first. What needs no feedback goes back with a word, from here.
      </p>
      {lines.length === 0 ? <Empty title="Nothing waits for you" /> : <TickList lines={lines} />}
    </Page>
  );
}
