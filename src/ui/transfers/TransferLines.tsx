import { sayDuration } from "@/core/items/kinds";
import { Button } from "../kit/Button";
import { saySize } from "./saySize";
import type { Transfer } from "./useTransfers";

/** Files on their way, each with how far it is, and a way to stop it. */
export function TransferLines({
  list,
  onStop,
}: {
  list: readonly Transfer[];
  onStop: (id: string) => void;
}) {
  if (list.length === 0) return null;
  return (
    <ul aria-label="On their way" className="my-2 grid gap-1">
      {list.map((t) => (
        <li
          key={t.id}
          className={
            t.state === "refused"
              ? "border-l-4 border-ember bg-ember-wash px-3 py-2"
              : "border-l-4 border-tide bg-tide-wash px-3 py-2"
          }
          role={t.state === "refused" ? "alert" : "status"}
        >
          <div className="flex flex-wrap items-center gap-x-3">
            <span className="min-w-0 flex-1 break-words">
              <strong className="font-normal">{t.name}</strong>{" "}
              <span className="text-sm text-soft">{saySize(t.size)}</span>
            </span>
            <Button small className="max-sm:min-h-11" onClick={() => onStop(t.id)}>
              {t.state === "refused" ? "Close" : "Stop"}
            </Button>
          </div>
          {t.state === "refused" ? (
            <p className="text-sm">▲ {t.problem} The rest of your piece is as it was.</p>
          ) : (
            <>
              <progress
                className="mt-1 block h-2 w-full accent-tide"
                max={Math.max(1, t.size)}
                value={t.sent}
                aria-label={`${t.name} sent`}
              />
              <p className="text-sm text-soft">
                {sayState(t)} {t.problem}
              </p>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

function sayState(t: Transfer): string {
  if (t.state === "no connection")
    return "No connection. It is kept on this device, and goes on when there is one.";
  if (t.state === "looked into") return "It is there, and is being looked into …";
  if (t.state === "waiting") return "Waiting its turn; kept on this device.";
  return `${saySize(t.sent)} of ${saySize(t.size)}${t.left !== null && t.left > 1 ? `, about ${sayDuration(t.left)} left` : ""}`;
}
