import { workView } from "@/server/overview/work";
import { pageCall } from "@/server/page";
import { WorkList } from "@/ui/piece/WorkList";

export const metadata = { title: "My work" };

export default async function WorkPage() {
  const work = await workView(await pageCall("student"));
  return (
    <div className="mx-auto w-full max-w-3xl px-4 py-6 sm:px-6">
      <h1 className="sr-only">My work</h1>
      <WorkList view={work} />
    </div>
  );
}
