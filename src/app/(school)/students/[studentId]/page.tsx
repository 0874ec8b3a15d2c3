import { studentPage } from "@/server/overview/student";
import { idFrom, pageCall, view } from "@/server/page";
import { StudentSheet } from "@/ui/students/StudentSheet";

export const metadata = { title: "Student" };

export default async function StudentPage({ params }: { params: Promise<{ studentId: string }> }) {
  const call = await pageCall("teacher");
  const page = await view(studentPage(call, idFrom((await params).studentId)));
  return (
    <div className="mx-auto w-full max-w-[80rem] px-4 py-6 sm:px-6">
      <StudentSheet page={page} />
    </div>
  );
}
