import { readLook } from "@/server/looks/shownWork";
import { idFrom, pageCall, view } from "@/server/page";
import { LookPage } from "@/ui/looks/LookPage";

export const metadata = { title: "A look" };

export default async function Look({ params }: { params: Promise<{ lookId: string }> }) {
  const call = await pageCall();
  const look = await view(readLook(call, idFrom((await params).lookId)));
  return <LookPage key={look.lookId} first={look} teacher={call.who.kind === "teacher"} />;
}
