import { readBank } from "@/server/comments/bank";
import { readCourses } from "@/server/access/sharing";
import { pageCall, textFrom } from "@/server/page";
import { clipViews, OWN_SECONDS } from "@/server/speech/clips";
import { ClipsProvider } from "@/ui/voice/clips";
import { Bank } from "@/ui/comments/Bank";
import { Page } from "@/ui/kit/Page";
import { ShelfHead } from "@/ui/shelf/ShelfHead";

export const metadata = { title: "Comment bank" };

export default async function CommentsPage({
  searchParams,
}: {
  searchParams: Promise<{ find?: string | string[] }>;
}) {
  const find = textFrom((await searchParams).find);
  const call = await pageCall("teacher");
  const [bank, courses] = await Promise.all([readBank(call), readCourses(call.db, call.who)]);
  return (
    <Page width="table">
      <ShelfHead title="Shelf: the comment bank" />
      <ClipsProvider
        clips={await clipViews(
          call,
          bank.flatMap((c) => c.clipId ?? []),
        )}
        mostSeconds={OWN_SECONDS}
      >
        <Bank key={find} first={bank} courses={courses} find={find} />
      </ClipsProvider>
    </Page>
  );
}
