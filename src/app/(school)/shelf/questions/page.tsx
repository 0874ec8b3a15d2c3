import { listSets } from "@/server/questions/sets";
import { pageCall } from "@/server/page";
import { QuestionSets } from "@/ui/questions/QuestionSets";
import { ShelfHead } from "@/ui/shelf/ShelfHead";

export const metadata = { title: "Questions" };

export default async function QuestionsPage() {
  const sets = await listSets(await pageCall("teacher"));
  return (
    <div className="mx-auto w-full max-w-[70rem] px-4 py-6 sm:px-6">
      <ShelfHead title="Shelf: questions" />
      <QuestionSets sets={sets} />
    </div>
  );
}
