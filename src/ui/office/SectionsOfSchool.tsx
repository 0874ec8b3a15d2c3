import { sayCount } from "@/core/text/sayCount";
import type { OfficeView } from "@/core/views/overviewViews";
import { Button } from "../kit/Button";

/** The sections of the school, found by what stands in their lines; a school of 3,000 has hundreds. */
export function SectionsOfSchool({ view, asked }: { view: OfficeView; asked: string }) {
  const { sections, found } = view;
  const more = found - sections.length;
  return (
    <>
      {more > 0 || asked !== "" ? (
        <form className="mt-2 flex flex-wrap items-center gap-2" role="search">
          <input
            type="search"
            name="find"
            defaultValue={asked}
            maxLength={100}
            aria-label="Find a section, a course or an owner"
            placeholder="Section, course or owner"
            className="min-h-8 w-60 rounded-[3px] border border-line-strong bg-raised px-2 max-sm:min-h-11"
          />
          <Button small type="submit">
            Find
          </Button>
          <span className="text-soft" role="status">
            {more > 0
              ? `The first ${sections.length} of ${sayCount(found, "section")}: find the others by a few letters.`
              : sayCount(found, "section")}
          </span>
        </form>
      ) : null}
      {sections.length > 0 ? (
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
            {sections.map((section) => (
              <tr key={`${section.course} ${section.name}`}>
                <td>{section.name}</td>
                <td>{section.course}</td>
                <td>{section.owner}</td>
                <td>{section.students}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </>
  );
}
