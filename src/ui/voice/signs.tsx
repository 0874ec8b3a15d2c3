/** Play and pause, drawn: as letters they would be taken from a font of coloured pictures. */
export function PlaySign({ playing = false }: { playing?: boolean }) {
  return (
    <svg viewBox="0 0 12 12" className="size-3 fill-current" aria-hidden="true">
      {playing ? <path d="M2 1h3v10H2zM7 1h3v10H7z" /> : <path d="M2.5 1v10l8-5z" />}
    </svg>
  );
}
