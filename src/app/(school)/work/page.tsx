import { workView } from "@/server/overview/work";
import { noteVisit } from "@/server/reminders/reminders";
import { pageCall } from "@/server/page";
import { WorkList } from "@/ui/piece/WorkList";

export const metadata = { title: "My work" };

export default async function WorkPage() {
  const call = await pageCall("student");
  await noteVisit(call);
  const work = await workView(call);
  return (
    <div className="mx-auto w-full max-w-3xl px-4 py-6 sm:px-6">
      <h1 className="sr-only">My work</h1>
      <WorkList view={work} />
    </div>
  );
}
