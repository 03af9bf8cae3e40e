/** The sun with its two dogs over the water, in the theme's own colours. */
export function Logo({ width }: { width: number }) {
  return (
    <svg width={width} height={(width * 2) / 3} viewBox="0 0 48 32" aria-hidden="true">
      <path d="M6 20a18 18 0 0 1 36 0" fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      <circle cx="24" cy="18" r="6.4" fill="var(--sun)" stroke="var(--ink)" strokeWidth="1.4" />
      <circle cx="6" cy="20" r="2.8" fill="var(--sun)" />
      <circle cx="42" cy="20" r="2.8" fill="var(--sun)" />
      <path d="M2 28h44" stroke="var(--water)" strokeWidth="2.4" />
    </svg>
  );
}
