/** Drafting hatches: soil, drainage stone, pad, undisturbed ground, set and filled units. Told apart without colour. */
export function Hatches({ id }: { id: string }) {
  return (
    <defs>
      <pattern id={`${id}-stone`} width="12" height="12" patternUnits="userSpaceOnUse">
        <circle cx="3" cy="3" r="2" fill="none" stroke="var(--soft)" strokeWidth=".8" />
        <circle cx="9" cy="8" r="2.4" fill="none" stroke="var(--soft)" strokeWidth=".8" />
      </pattern>
      <pattern id={`${id}-pad`} width="8" height="8" patternUnits="userSpaceOnUse">
        <circle cx="2" cy="2" r="1" fill="var(--ink)" />
        <circle cx="6" cy="5" r=".7" fill="var(--ink)" />
        <circle cx="3" cy="7" r=".6" fill="var(--ink)" />
      </pattern>
      <pattern id={`${id}-concrete`} width="18" height="18" patternUnits="userSpaceOnUse">
        <path d="M3 6l3 -4l3 4zM11 14l2.5 -3.5l2.5 3.5z" fill="none" stroke="var(--soft)" strokeWidth=".9" />
        <circle cx="13" cy="4" r=".8" fill="var(--soft)" />
        <circle cx="4" cy="12" r=".8" fill="var(--soft)" />
        <circle cx="8" cy="16" r=".6" fill="var(--soft)" />
      </pattern>
      <pattern id={`${id}-soil`} width="14" height="14" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
        <path d="M0 3H14M0 6H14" stroke="var(--line)" strokeWidth="1" />
      </pattern>
      <pattern id={`${id}-ground`} width="10" height="10" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
        <path d="M0 5H10" stroke="var(--line)" strokeWidth=".8" />
      </pattern>
      <pattern id={`${id}-filled`} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="5" height="5" fill="var(--done)" opacity=".38" />
        <path d="M0 2.5H5" stroke="var(--ink)" strokeWidth=".7" />
      </pattern>
    </defs>
  )
}
