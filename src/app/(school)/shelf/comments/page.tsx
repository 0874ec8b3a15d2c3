import { readBank } from "@/server/comments/bank";
import { pageCall } from "@/server/page";
import { Bank } from "@/ui/comments/Bank";
import { ShelfHead } from "@/ui/shelf/ShelfHead";

export const metadata = { title: "Comment bank" };

export default async function CommentsPage() {
  const bank = await readBank(await pageCall("teacher"));
  return (
    <div className="mx-auto w-full max-w-5xl px-4 py-6 sm:px-6">
      <ShelfHead title="Shelf: the comment bank" />
      <Bank first={bank} />
    </div>
  );
}
