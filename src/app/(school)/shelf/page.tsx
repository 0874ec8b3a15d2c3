import { readBank } from "@/server/comments/bank";
import { pageCall } from "@/server/page";
import { Bank } from "@/ui/comments/Bank";

export const metadata = { title: "Shelf" };

export default async function ShelfPage() {
  const bank = await readBank(await pageCall("teacher"));
  return (
    <div className="mx-auto w-full max-w-5xl px-4 py-6 sm:px-6">
      <h1 className="mb-5">Shelf: the comment bank</h1>
      <Bank first={bank} />
    </div>
  );
}
