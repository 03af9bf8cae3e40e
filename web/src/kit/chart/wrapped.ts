/** What a letter of a chart takes, about. */
export const LETTER_PX = 7;

/** A name broken over so many lines of a box at its spaces; what is left over ends in an ellipsis. */
export function wrapped(text: string, perLine: number, most: number): string[] {
  const lines: string[] = [];
  let rest = text.trim();
  while (rest.length > perLine && lines.length < most - 1) {
    const space = rest.lastIndexOf(" ", perLine);
    if (space <= 0) break;
    lines.push(rest.slice(0, space));
    rest = rest.slice(space + 1);
  }
  return [...lines, rest.length > perLine ? `${rest.slice(0, perLine - 1)}…` : rest];
}
