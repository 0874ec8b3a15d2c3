import { useSyncExternalStore } from "react";

const nothingChanges = () => () => undefined;

/** False as the server draws a page and while the browser takes it over; true ever after. */
export const useLive = (): boolean =>
  useSyncExternalStore(
    nothingChanges,
    () => true,
    () => false,
  );
