import type postgres from "postgres";

/** What PostgreSQL says when something of a section moved (migration 0015). */
const CHANNEL = "moved";

/** Called with the section that moved; null: what moved meanwhile is not known, so all may have. */
export type Follower = (sectionId: string | null) => void;

export type Hub = {
  /** @returns ends it */
  follow(sectionIds: readonly string[], follower: Follower): () => void;
  /** After PostgreSQL was away: a new connection, and every page asks again. */
  renew(): void;
  end(): Promise<void>;
};

/**
 * One listening connection for all open pages of this process. It begins with the first page; where it was lost and
 * came back, every page is told to ask again, for what was said meanwhile is gone.
 *
 * @param connect a connection of its own: the driver listens on it alone
 */
export function makeHub(connect: () => Pick<postgres.Sql, "listen" | "end">): Hub {
  const followers = new Map<string, Set<Follower>>();
  let listening: ReturnType<typeof connect> | null = null;
  const tellAll = () => {
    for (const follower of new Set([...followers.values()].flatMap((set) => [...set])))
      follower(null);
  };
  const leave = (own: typeof listening) => {
    if (listening === own) listening = null;
    return own?.end({ timeout: 1 }).catch(() => {});
  };
  const begin = () => {
    if (listening) return;
    const own = connect();
    listening = own;
    let first = true;
    const begun = () => {
      if (!first) tellAll();
      first = false;
    };
    const moved = (sectionId: string) =>
      followers.get(sectionId)?.forEach((follower) => follower(sectionId));
    // Where it cannot listen, the next page that opens tries again.
    own.listen(CHANNEL, moved, begun).catch(() => void leave(own));
  };
  return {
    follow(sectionIds, follower) {
      begin();
      for (const id of sectionIds) {
        const set = followers.get(id) ?? new Set();
        followers.set(id, set.add(follower));
      }
      return () => {
        for (const id of sectionIds) {
          const set = followers.get(id);
          set?.delete(follower);
          if (set?.size === 0) followers.delete(id);
        }
      };
    },
    renew() {
      void leave(listening);
      if (followers.size === 0) return;
      begin();
      tellAll();
    },
    async end() {
      await leave(listening);
    },
  };
}
