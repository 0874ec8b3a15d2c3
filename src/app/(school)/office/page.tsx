import { officeView } from "@/server/overview/school";
import { pageCall } from "@/server/page";
import { OfficeHead } from "@/ui/office/OfficeHead";
import { History } from "@/ui/kit/History";

export const metadata = { title: "Office" };

export default async function OfficePage() {
  const view = await officeView(await pageCall("office"));
  return (
    <div className="mx-auto w-full max-w-4xl px-4 py-6 sm:px-6">
      <OfficeHead title={view.school} />
      <p className="mt-1 text-soft">
        {view.counts
          .map(
            ({ what, count }) => `${count} ${count === 1 || what === "office" ? what : `${what}s`}`,
          )
          .join(" · ")}
      </p>
      <h2 className="mt-8">Sections</h2>
      <table className="sheet-table mt-2">
        <thead>
          <tr className="label">
            <th scope="col">section</th>
            <th scope="col">course</th>
            <th scope="col">owner</th>
            <th scope="col">students</th>
          </tr>
        </thead>
        <tbody>
          {view.sections.map((section) => (
            <tr key={`${section.course} ${section.name}`}>
              <td>{section.name}</td>
              <td>{section.course}</td>
              <td>{section.owner}</td>
              <td>{section.students}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mt-8">What happened last</h2>
      <History lines={view.events} />
    </div>
  );
}
