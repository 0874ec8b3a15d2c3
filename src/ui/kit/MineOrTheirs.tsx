import { Button } from "./Button";

/** Of two that were changed at once, one is chosen; the other is not touched until then. */
export const MineOrTheirs = ({ onChoose }: { onChoose: (choice: "mine" | "theirs") => void }) => (
  <>
    <Button small onClick={() => onChoose("mine")}>
      Keep mine
    </Button>
    <Button small onClick={() => onChoose("theirs")}>
      Take theirs
    </Button>
  </>
);
