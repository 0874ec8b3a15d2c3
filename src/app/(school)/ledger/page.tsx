import { redirect } from "next/navigation";
import { sectionList } from "@/server/overview/sections";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Ledger" };

export default async function LedgersPage() {
  const sections = await sectionList(await pageCall("teacher"));
  if (sections[0]) redirect(`/ledger/${sections[0].id}`);
  return (
    <div className="mx-auto w-full max-w-3xl px-6 py-16">
      <Empty title="You teach no section yet">The office brings sections and rosters in.</Empty>
    </div>
  );
}
