import { workView } from "@/server/overview/work";
import { noteVisit } from "@/server/reminders/reminders";
import { pageCall } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { WorkList } from "@/ui/piece/WorkList";

export const metadata = { title: "My work" };

export default async function WorkPage() {
  const call = await pageCall("student");
  await noteVisit(call);
  const work = await workView(call);
  return (
    <Page width="reading">
      <h1 className="sr-only">My work</h1>
      <WorkList view={work} />
    </Page>
  );
}
