/** A cell of a grid where a student has no piece: never given it (the cell is hatched), or taken off again. */
export const NotTheirs = ({ takenOff }: { takenOff: boolean }) =>
  takenOff ? (
    <span className="text-xs text-soft">taken off</span>
  ) : (
    <span className="sr-only">not given to this student</span>
  );
