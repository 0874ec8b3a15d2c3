import { listRubrics } from "@/server/rubrics/rubrics";
import { pageCall } from "@/server/page";
import { Rubrics } from "@/ui/rubrics/Rubrics";
import { ShelfHead } from "@/ui/shelf/ShelfHead";

export const metadata = { title: "Rubrics" };

export default async function RubricsPage() {
  const rubrics = await listRubrics(await pageCall("teacher"));
  return (
    <div className="mx-auto w-full max-w-[80rem] px-4 py-6 sm:px-6">
      <ShelfHead title="Shelf: rubrics" />
      <Rubrics rubrics={rubrics} />
    </div>
  );
}
