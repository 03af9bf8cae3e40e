/** A hull type seen from above, bow up: its hulls and how they lie, no more. */

const HULLS: Record<string, [number, number, number][]> = {
  // of each hull: its middle athwart, its beam and its length, in a box of 40 by 56
  kayak: [[20, 7, 52]],
  canoe: [[20, 10, 50]],
  sit_on_top: [[20, 11, 46]],
  paddleboard: [[20, 12, 48]],
  rowing_boat: [[20, 16, 46]],
  inflatable: [[20, 22, 42]],
  skiff: [[20, 18, 46]],
  planing_boat: [[20, 20, 48]],
  launch: [[20, 14, 52]],
  motor_cruiser: [[20, 18, 52]],
  fin_keel_yacht: [[20, 17, 52]],
  long_keel_yacht: [[20, 15, 52]],
  catamaran: [
    [9, 8, 50],
    [31, 8, 50],
  ],
  trimaran: [
    [20, 8, 52],
    [5, 4, 34],
    [35, 4, 34],
  ],
  pontoon: [
    [10, 8, 48],
    [30, 8, 48],
  ],
};
const DECKED = ["catamaran", "pontoon", "trimaran"];
const BLUNT = ["paddleboard", "inflatable", "pontoon"]; // rounded at the bow
const SHARP = ["kayak", "canoe"]; // pointed at both ends

function outline(type: string, x: number, beam: number, length: number): string {
  const [top, half] = [28 - length / 2, beam / 2];
  const stern = SHARP.includes(type) ? 0 : half * 0.8;
  const shoulder = top + length * (BLUNT.includes(type) ? 0.14 : 0.45);
  const bow = BLUNT.includes(type) ? top - 2 : top + length * 0.12;
  return `M${x} ${top}Q${x + half} ${bow} ${x + half} ${shoulder}Q${x + half} ${top + length * 0.8} ${x + stern} ${top + length}H${x - stern}Q${x - half} ${top + length * 0.8} ${x - half} ${shoulder}Q${x - half} ${bow} ${x} ${top}Z`;
}

export function HullShape({ type }: { type: string }) {
  const hulls = HULLS[type] ?? [];
  return (
    <svg width="30" height="42" viewBox="0 0 40 56" className="shrink-0" aria-hidden="true">
      {DECKED.includes(type) && <rect x="9" y="20" width="22" height="22" className="fill-dog-far" />}
      {hulls.map(([x, beam, length]) => (
        <path
          key={x}
          d={outline(type, x, beam, length)}
          className="fill-field stroke-current"
          strokeWidth="1.6"
        />
      ))}
    </svg>
  );
}
