import { redirect } from "next/navigation";
import { sectionList } from "@/server/overview/sections";
import { pageCall } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { Empty } from "@/ui/kit/Notice";

export const metadata = { title: "Ledger" };

export default async function LedgersPage() {
  const sections = await sectionList(await pageCall("teacher"));
  if (sections[0]) redirect(`/ledger/${sections[0].id}`);
  return (
    <Page width="reading">
      <Empty title="You teach no section yet">The office brings sections and rosters in.</Empty>
    </Page>
  );
}
