import { openQuestions } from "@/server/overview/questions";
import { pageCall } from "@/server/page";
import { Live } from "@/ui/live/Live";
import { Page } from "@/ui/kit/Page";
import { Questions } from "@/ui/letters/Questions";

export const metadata = { title: "Questions" };

export default async function QuestionsPage() {
  const call = await pageCall("teacher");
  const { questions, clips } = await openQuestions(call);
  return (
    <Page width="reading">
      <Live />
      <h1 className="mb-1">Questions</h1>
      <p className="mb-4 text-soft">Those that wait longest come first.</p>
      <Questions questions={questions} clips={clips} />
    </Page>
  );
}
