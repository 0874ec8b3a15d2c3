"use client";

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { contract } from "@/core/api/contract";
import { call } from "../../client";
import { Notice } from "../../kit/Notice";
import { CameUp } from "../../sectionNotes/CameUp";

/** Beside the piece: what came up on many pieces of its hand-out, to be said to all at once. */
export function CameUpHere({ handOutId }: { handOutId: string }) {
  const queries = useQueryClient();
  const [told, setTold] = useState(false);
  const { data } = useQuery({
    queryKey: ["came up", handOutId],
    queryFn: () => call(contract.cameUp, { params: { handOutId } }),
    staleTime: 60_000,
  });
  if (!told && (!data || data.length === 0)) return null;
  return (
    <details className="mt-6">
      <summary className="label cursor-pointer">
        came up often{data && data.length > 0 ? ` (${data.length})` : ""}
      </summary>
      {told ? (
        <Notice ink="moss">Said to the class. Its students see it on their piece.</Notice>
      ) : null}
      <CameUp
        handOutId={handOutId}
        cameUp={data ?? []}
        onSaid={() => {
          setTold(true);
          void queries.invalidateQueries({ queryKey: ["came up", handOutId] });
        }}
      />
    </details>
  );
}
