import { shelfView } from "@/server/overview/shelf";
import { pageCall } from "@/server/page";
import { Empty } from "@/ui/kit/Notice";
import { ShelfHead } from "@/ui/shelf/ShelfHead";
import { Page } from "@/ui/kit/Page";
import { saySize } from "@/ui/transfers/saySize";

export const metadata = { title: "Files" };

export default async function FilesPage() {
  const { files } = await shelfView(await pageCall("teacher"));
  return (
    <Page width="table">
      <ShelfHead title="Shelf: files" />
      {files.length === 0 ? (
        <Empty title="No files yet">What you add to an assignment stands here too.</Empty>
      ) : null}
      {files.length > 0 ? (
        <table className="sheet-table">
          <thead>
            <tr className="label">
              <th scope="col">file</th>
              <th scope="col">size</th>
              <th scope="col">since</th>
              <th scope="col">given with</th>
            </tr>
          </thead>
          <tbody>
            {files.map((file) => (
              <tr key={file.id}>
                <th scope="row" className="border-b border-line! font-normal">
                  <a href={`/api/uploads/${file.id}`}>{file.name}</a>
                </th>
                <td className="text-sm">{saySize(file.size)}</td>
                <td className="text-sm">{file.when}</td>
                <td className="text-sm">
                  {file.usedIn === 0
                    ? "nothing yet"
                    : `${file.usedIn} ${file.usedIn === 1 ? "assignment" : "assignments"}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </Page>
  );
}
