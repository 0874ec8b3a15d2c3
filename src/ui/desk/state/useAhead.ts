"use client";

import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { drawAhead } from "../../items/pdfDocuments";
import { deskKey, fetchDesk } from "./useDeskPiece";

/** So many pieces that were visited stay at hand; an evening's pile does not fill the memory of a small machine. */
const HELD = 12;

/** Lets go of the pieces that were looked at longest ago: they are fetched again when they are wanted. */
function letGoOfOld(client: QueryClient): void {
  const visited = client
    .getQueryCache()
    .findAll({ queryKey: ["desk"], type: "inactive" })
    .sort((a, b) => b.state.dataUpdatedAt - a.state.dataUpdatedAt);
  for (const { queryKey } of visited.slice(HELD)) client.removeQueries({ queryKey, exact: true });
}

/** The neighbours are loaded ahead with the first page of their files, so that going on is instant. */
export function useAhead(near: readonly (string | undefined)[]): void {
  const client = useQueryClient();
  const around = near.filter((id) => id !== undefined).join(" ");
  useEffect(() => {
    letGoOfOld(client);
    for (const id of around.split(" ").filter(Boolean)) {
      void client
        .fetchQuery({ queryKey: deskKey(id), queryFn: () => fetchDesk(id), staleTime: 30_000 })
        .then(
          (ahead) => {
            const shown = ahead.items[0]?.view;
            if (shown?.as === "pages") void drawAhead(shown.href);
            else if (shown?.as === "picture") new Image().src = shown.href;
          },
          () => undefined,
        );
    }
  }, [client, around]);
}
