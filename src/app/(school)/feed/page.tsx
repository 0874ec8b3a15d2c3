import { notFound } from "next/navigation";
import { feedView } from "@/server/calendar/feeds";
import { pageCall, view } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { Feed } from "@/ui/calendar/Feed";

export const metadata = { title: "My calendar address" };

export default async function FeedPage() {
  const call = await pageCall();
  if (call.who.kind !== "teacher" && call.who.kind !== "student") notFound();
  return (
    <Page width="reading">
      <h1>My calendar address</h1>
      <p className="mt-2 mb-5 text-soft">
        Your due dates, for any calendar that can follow an address (iCalendar). Whoever knows the
        address sees titles and due times, nothing else; change it if it got about.
      </p>
      <Feed first={await view(feedView(call))} />
    </Page>
  );
}
