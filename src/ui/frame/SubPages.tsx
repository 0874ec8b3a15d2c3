import { ScreenLink } from "./ScreenLink";

/** The parts of one screen, as a line of words under its name. */
export function SubPages({
  label,
  pages,
}: {
  label: string;
  pages: readonly { href: string; name: string }[];
}) {
  return (
    <nav aria-label={label} className="mb-5 border-b border-line">
      <ul className="-ml-2.5 flex flex-wrap gap-x-1">
        {pages.map((page) => (
          <li key={page.href}>
            <ScreenLink {...page} exact />
          </li>
        ))}
      </ul>
    </nav>
  );
}
