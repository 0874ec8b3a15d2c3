/**
 * Keeps a page of the student's, with the parts of the program it has loaded, for times without a connection (the service
 * worker gives it out). Called again when the page has changed in a way that counts.
 */
export async function keepPage(path: string): Promise<void> {
  try {
    const answer = await fetch(path, { headers: { accept: "text/html" } });
    if (!answer.ok || answer.redirected || !/^\/work(\/|$)/.test(path)) return;
    const page = await caches.open("almanac-pages-1");
    await page.put(path, answer);
    const program = await caches.open("almanac-program-1");
    const loaded = performance
      .getEntriesByType("resource")
      .map((entry) => entry.name)
      .filter((name) => name.includes("/_next/static/"));
    await Promise.all(
      [...new Set(loaded)].map(
        async (address) => (await program.match(address)) ?? (await program.add(address)),
      ),
    );
  } catch {
    // Without room or connection the page simply is not kept.
  }
}
