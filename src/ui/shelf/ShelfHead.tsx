import { SubPages } from "../frame/SubPages";

const PAGES = [
  { href: "/shelf", name: "Work to use again" },
  { href: "/shelf/rubrics", name: "Rubrics" },
  { href: "/shelf/questions", name: "Questions" },
  { href: "/shelf/files", name: "Files" },
  { href: "/shelf/comments", name: "Comment bank" },
];

export function ShelfHead({ title }: { title: string }) {
  return (
    <>
      <h1 className="mb-2">{title}</h1>
      <SubPages label="Shelf" pages={PAGES} />
    </>
  );
}
