import type { TypedScoreView } from "@/core/views/views";

/** Scores as teachers typed them, here or elsewhere; those that were handed back are told apart by the rounds. */
export function TypedScores({ scores }: { scores: readonly TypedScoreView[] }) {
  if (scores.length === 0) return null;
  const rounds = new Set(scores.map(({ round }) => round)).size > 1;
  return (
    <section className="mt-4" aria-label="Scores as they were typed">
      <h3 className="label">scores as they were typed</h3>
      <ol className="mt-1 text-sm">
        {scores.map((score, n) => (
          <li key={n}>
            {rounds ? <span className="text-soft">round {score.round}: </span> : null}
            {score.typed === "" ? "taken away" : score.typed}{" "}
            <span className="text-soft">
              ({score.by}, {score.when})
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
