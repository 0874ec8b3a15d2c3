"use client";

import { useEffect, useState } from "react";
import { Keeper, type Keeping, type KeeperState } from "./Keeper";
import { useObserved } from "./useObserved";
import { browserWorld } from "./world";

/** A keeper for as long as the component is there; what a closed tab left is put back at its beginning. */
export function useKeeper<Value, Answer extends { revision: number }>(
  make: () => Keeping<Value, Answer>,
  first: { value: Value; revision: number },
): { keeper: Keeper<Value, Answer>; state: KeeperState<Value>; found: Value | null } {
  const [keeper] = useState(() => new Keeper(make(), first, browserWorld));
  const [found, setFound] = useState<Value | null>(null);
  const state = useObserved(keeper);
  useEffect(() => {
    void keeper.recover().then((left) => left !== null && setFound(left));
    return keeper.start();
  }, [keeper]);
  return { keeper, state, found };
}
