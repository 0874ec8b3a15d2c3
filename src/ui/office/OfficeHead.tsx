import { SubPages } from "../frame/SubPages";

const PAGES = [
  { href: "/office", name: "The school" },
  { href: "/office/roster", name: "Roster" },
  { href: "/office/calendar", name: "School calendar" },
  { href: "/office/people", name: "People and passwords" },
  { href: "/office/scales", name: "Grade scales" },
  { href: "/office/limits", name: "Limits for files" },
];

export function OfficeHead({ title }: { title: string }) {
  return (
    <>
      <h1 className="mb-2">{title}</h1>
      <SubPages label="Office" pages={PAGES} />
    </>
  );
}
