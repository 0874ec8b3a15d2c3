import { studentPage } from "@/server/overview/student";
import { idFrom, pageCall, view } from "@/server/page";
import { Page } from "@/ui/kit/Page";
import { StudentSheet } from "@/ui/students/StudentSheet";

export const metadata = { title: "Student" };

export default async function StudentPage({ params }: { params: Promise<{ studentId: string }> }) {
  const call = await pageCall("teacher");
  const page = await view(studentPage(call, idFrom((await params).studentId)));
  return (
    <Page width="table" title={page.student}>
      <StudentSheet page={page} />
    </Page>
  );
}
