import { notFound } from "next/navigation";
import { readLetters } from "@/server/letters/read";
import { pageCall } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { Letters } from "@/ui/letters/Letters";

export const metadata = { title: "Letters" };

export default async function LettersPage() {
  const call = await pageCall();
  if (call.who.kind === "office") notFound();
  const view = await readLetters(call);
  return (
    <Page width="reading">
      <h1 className="mb-4">Letters</h1>
      <Letters first={view} />
    </Page>
  );
}
