import { readDisplay } from "@/server/looks/displays";
import { readDisplayedPiece } from "@/server/looks/shownWork";
import { idFrom, pageCall, view } from "@/server/page";
import { DisplayPage } from "@/ui/looks/DisplayPage";

export const metadata = { title: "Display" };

export default async function Display({
  params,
  searchParams,
}: {
  params: Promise<{ handOutId: string }>;
  searchParams: Promise<{ piece?: string }>;
}) {
  const call = await pageCall();
  const [{ handOutId }, { piece }] = await Promise.all([params, searchParams]);
  const display = await view(readDisplay(call, idFrom(handOutId)));
  const opened = piece ? await view(readDisplayedPiece(call, idFrom(piece))) : null;
  return <DisplayPage display={display} piece={opened} teacher={call.who.kind === "teacher"} />;
}
