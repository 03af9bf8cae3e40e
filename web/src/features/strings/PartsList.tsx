import { useState } from "react";
import type { StringsPicture } from "../../api/client";
import { useDesign } from "../../kit/document";
import { saveFile } from "../../kit/saveFile";
import { LinkButton } from "../../kit/ui/LinkButton";

/** What the wiring is made of, counted from the circuits that are drawn; kept as CSV. */
export function PartsList({ picture }: { picture: StringsPicture }) {
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Parts" data-parts>
      {picture.parts.length === 0 ? (
        <p className="text-muted">Nothing is wired yet.</p>
      ) : (
        <table className="plain-table max-w-[620px]">
          <thead>
            <tr>
              <th>how many</th>
              <th className="text-left!">what</th>
              <th className="text-left!">where</th>
            </tr>
          </thead>
          <tbody>
            {picture.parts.map((part, i) => (
              <tr key={`${part.item}/${part.where}/${i}`}>
                <td className="tabular whitespace-nowrap">
                  {part.quantity} {part.unit === "pieces" ? "" : part.unit}
                </td>
                <td className="text-left!">{part.item}</td>
                <td className="text-left! text-muted">{part.where}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-2 mb-1 text-[13px] text-muted">
        Cable for both conductors, a tenth to spare. Counted from the diagram; terminals, glands and clips are
        yours.
      </p>
      <WiringFiles parts />
    </div>
  );
}

/** The wiring as files: everything on paper as a PDF, the parts as CSV. */
export function WiringFiles({ parts }: { parts?: boolean }) {
  const { design } = useDesign();
  const [problem, setProblem] = useState<string | null>(null);
  const body = JSON.stringify({ design });
  const keep = async (url: string, name: string) => setProblem(await saveFile(url, body, name));
  return (
    <span className="no-print flex flex-wrap items-center gap-3 text-[13px]">
      {parts && (
        <LinkButton onClick={() => void keep("/api/strings/parts.csv", `${design.name}-parts.csv`)}>
          save as CSV
        </LinkButton>
      )}
      <LinkButton onClick={() => void keep("/api/strings/wiring.pdf", `${design.name}-wiring.pdf`)}>
        all of the wiring as PDF
      </LinkButton>
      {problem && (
        <span role="alert" className="text-alarm">
          ▲ {problem}
        </span>
      )}
    </span>
  );
}
