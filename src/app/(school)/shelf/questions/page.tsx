import { listSets } from "@/server/questions/sets";
import { pageCall } from "@/server/page";
import { QuestionSets } from "@/ui/questions/QuestionSets";
import { Page } from "@/ui/kit/Page";
import { ShelfHead } from "@/ui/shelf/ShelfHead";

export const metadata = { title: "Questions" };

export default async function QuestionsPage() {
  const sets = await listSets(await pageCall("teacher"));
  return (
    <Page width="table">
      <ShelfHead title="Shelf: questions" />
      <QuestionSets sets={sets} />
    </Page>
  );
}
