/** The hatch of what is never permitted, for `fill="url(#id)"`. */
export function Hatch({ id }: { id: string }) {
  return (
    <defs>
      <pattern id={id} width="8" height="8" patternTransform="rotate(45)" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--limit-fill)" />
        <line x1="0" y1="0" x2="0" y2="8" stroke="var(--limit-hatch)" strokeWidth="2.5" />
      </pattern>
    </defs>
  );
}
