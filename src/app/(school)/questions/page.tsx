import { openQuestions } from "@/server/overview/questions";
import { pageCall } from "@/server/page";
import { Live } from "@/ui/live/Live";
import { Questions } from "@/ui/letters/Questions";

export const metadata = { title: "Questions" };

export default async function QuestionsPage() {
  const call = await pageCall("teacher");
  const { questions, clips } = await openQuestions(call);
  return (
    <div className="mx-auto w-full max-w-3xl px-4 py-6 sm:px-6">
      <Live />
      <h1 className="mb-1">Questions</h1>
      <p className="mb-4 text-soft">Those that wait longest come first.</p>
      <Questions questions={questions} clips={clips} />
    </div>
  );
}
