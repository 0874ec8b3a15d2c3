"use client";

import { useEffect } from "react";

/**
 * Says in the title of the window what is shown now, for as long as it is: the page's own title, which the framework
 * may write again whenever it likes, gives way to it.
 */
export function useWindowTitle(words: string): void {
  useEffect(() => {
    const say = () => {
      if (document.title !== words) document.title = words;
    };
    say();
    const written = new MutationObserver(say);
    written.observe(document.head, { childList: true, subtree: true, characterData: true });
    return () => written.disconnect();
  }, [words]);
}
