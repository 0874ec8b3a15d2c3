import { listRubrics } from "@/server/rubrics/rubrics";
import { pageCall } from "@/server/page";
import { Rubrics } from "@/ui/rubrics/Rubrics";
import { Page } from "@/ui/kit/Page";
import { ShelfHead } from "@/ui/shelf/ShelfHead";

export const metadata = { title: "Rubrics" };

export default async function RubricsPage() {
  const rubrics = await listRubrics(await pageCall("teacher"));
  return (
    <Page width="table">
      <ShelfHead title="Shelf: rubrics" />
      <Rubrics rubrics={rubrics} />
    </Page>
  );
}
