import { notFound } from "next/navigation";
import { readLetters } from "@/server/letters/read";
import { pageCall } from "@/server/page";
import { Letters } from "@/ui/letters/Letters";

export const metadata = { title: "Letters" };

export default async function LettersPage() {
  const call = await pageCall();
  if (call.who.kind === "office") notFound();
  const view = await readLetters(call);
  return (
    <div className="mx-auto w-full max-w-3xl px-4 py-6 sm:px-6">
      <h1 className="mb-4">Letters</h1>
      <Letters first={view} />
    </div>
  );
}
