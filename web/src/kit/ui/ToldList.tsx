import type { Sentence } from "../../api/client";
import { Told } from "./Told";

/** Sentences one under the other. */
export function ToldList({ lines, name, mark = "" }: { lines: Sentence[]; name: string; mark?: string }) {
  return (
    <ul className="m-0 mb-1 max-w-[76ch] list-none p-0" data-told={name}>
      {lines.map((line, k) => (
        <li key={k}>
          {mark && <span aria-hidden="true">{mark} </span>}
          <Told sentence={line} />
        </li>
      ))}
    </ul>
  );
}
