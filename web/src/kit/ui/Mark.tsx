/** The shapes of findings: triangle warns, ring notes, tick is good. Meaning never rests on colour alone. */
export function Mark({ level, size = 20 }: { level: "warn" | "note" | "good"; size?: number }) {
  const names = { warn: "Warning", note: "Note", good: "Good" };
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 20 20"
      role="img"
      aria-label={names[level]}
      className="shrink-0"
    >
      {level === "warn" && (
        <path d="M10 2.5 18 17H2Z" fill="none" stroke="var(--alarm)" strokeWidth="2" strokeLinejoin="round" />
      )}
      {level === "note" && (
        <circle cx="10" cy="10" r="7" fill="none" stroke="var(--water-text)" strokeWidth="2" />
      )}
      {level === "good" && (
        <path d="m3 10.5 4.6 5L17 4" strokeLinecap="round" className="fill-none stroke-bank stroke-[2.4]" />
      )}
    </svg>
  );
}

/** A sun with its two dogs: "here". */
export function SunMark({ x, y, r = 8 }: { x: number; y: number; r?: number }) {
  return (
    <g>
      <circle cx={x - r * 1.9} cy={y} r={r * 0.26} fill="var(--dog)" />
      <circle cx={x + r * 1.9} cy={y} r={r * 0.26} fill="var(--dog)" />
      <circle cx={x} cy={y} r={r} fill="var(--sun)" stroke="var(--ink)" strokeWidth="1.5" />
    </g>
  );
}
