/** Lines of the record: when, who, what. */
export function History({
  lines,
}: {
  lines: readonly { when: string; who: string; what: string }[];
}) {
  return (
    <ol className="mt-2 text-sm">
      {lines.map((line, n) => (
        <li key={n} className="grid grid-cols-[10rem_1fr] gap-3 border-t border-line py-1">
          <span className="text-soft">{line.when}</span>
          <span>
            {line.who}: {line.what}
          </span>
        </li>
      ))}
    </ol>
  );
}
