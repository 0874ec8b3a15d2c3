import { notFound } from "next/navigation";
import { feedView } from "@/server/calendar/feeds";
import { pageCall, view } from "@/server/page";
import { Feed } from "@/ui/calendar/Feed";

export const metadata = { title: "My calendar address" };

export default async function FeedPage() {
  const call = await pageCall();
  if (call.who.kind !== "teacher" && call.who.kind !== "student") notFound();
  return (
    <div className="mx-auto w-full max-w-2xl px-4 py-8 sm:px-6">
      <h1>My calendar address</h1>
      <p className="mt-2 mb-5 text-soft">
        Your due dates, for any calendar that can follow an address (iCalendar). Whoever knows the
        address sees titles and due times, nothing else; change it if it got about.
      </p>
      <Feed first={await view(feedView(call))} />
    </div>
  );
}
