"use client";

import { useObserved } from "../../keeping/useObserved";
import { useDesk } from "../model";
import type { Feedback, FeedbackDraft } from "../store/feedback";

/** The draft of the piece on the Desk, and changing it. */
export function useDraft() {
  const { feedback } = useDesk();
  const keeper: Feedback = feedback!;
  const state = useObserved(keeper);
  const change = (part: Partial<FeedbackDraft>) => keeper.change((old) => ({ ...old, ...part }));
  return { keeper, state, draft: state.value, change };
}

/** Escape leaves a field for the work; so does Enter where it means nothing else. */
export const leaveField = (event: React.KeyboardEvent<HTMLElement>) => {
  const enter = event.key === "Enter" && event.currentTarget instanceof HTMLInputElement;
  if (event.key !== "Escape" && !enter) return;
  event.preventDefault();
  event.currentTarget.blur();
};
