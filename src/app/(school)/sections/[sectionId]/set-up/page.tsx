import Link from "next/link";
import { sectionSetUp } from "@/server/classes/setUp";
import { idFrom, pageCall, view } from "@/server/page";
import { sayDate } from "@/ui/time";
import { Page } from "@/ui/kit/Page";
import { SetUp } from "@/ui/sections/SetUp";

export const metadata = { title: "Set up a section" };

export default async function SetUpPage({ params }: { params: Promise<{ sectionId: string }> }) {
  const call = await pageCall("teacher");
  const setUp = await view(sectionSetUp(call, idFrom((await params).sectionId)));
  return (
    <Page width="table" title={`Set up ${setUp.name}`}>
      <p className="text-sm">
        <Link href={`/sections/${setUp.id}`}>← {setUp.name}</Link>
      </p>
      <h1 className="mt-2">Set up {setUp.name}</h1>
      <p className="mb-6 text-soft">
        {setUp.course}, {setUp.term.name} term ({sayDate(setUp.term.startsOn)} to{" "}
        {sayDate(setUp.term.endsOn)})
      </p>
      <SetUp view={setUp} />
    </Page>
  );
}
