import Link from "next/link";
import { suggestDates } from "@/server/handouts/suggestDates";
import { idFrom, pageCall, view } from "@/server/page";
import { HandOutForm } from "@/ui/handouts/HandOutForm";

export const metadata = { title: "Hand out" };

export default async function HandOutPage({ params }: { params: Promise<{ sectionId: string }> }) {
  const call = await pageCall("teacher");
  const sectionId = idFrom((await params).sectionId);
  const suggested = await view(suggestDates(call, sectionId));
  return (
    <div className="mx-auto w-full max-w-[80rem] px-4 py-6 sm:px-6">
      <p className="text-sm">
        <Link href={`/sections/${sectionId}`}>← {suggested.section}</Link>
      </p>
      <h1 className="mt-2 mb-6">Hand out to {suggested.section}</h1>
      <HandOutForm sectionId={sectionId} section={suggested.section} students={suggested.students} suggested={suggested} />
    </div>
  );
}
