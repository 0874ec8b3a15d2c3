import { shelfView } from "@/server/overview/shelf";
import { sectionList } from "@/server/overview/sections";
import { pageCall } from "@/server/page";
import { ShelfHead } from "@/ui/shelf/ShelfHead";
import { Page } from "@/ui/kit/Page";
import { WorkAgain } from "@/ui/shelf/WorkAgain";

export const metadata = { title: "Shelf" };

export default async function ShelfPage() {
  const call = await pageCall("teacher");
  const [shelf, sections] = await Promise.all([shelfView(call), sectionList(call)]);
  return (
    <Page width="table">
      <ShelfHead title="Shelf" />
      <WorkAgain
        shelf={shelf}
        sections={sections.filter((s) => s.role === "owner").map(({ id, name }) => ({ id, name }))}
      />
    </Page>
  );
}
