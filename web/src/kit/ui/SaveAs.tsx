import { type ComponentProps, useState } from "react";
import { useDesign } from "../document";
import { saveFile } from "../saveFile";
import { LinkButton } from "./LinkButton";

interface Props extends ComponentProps<"button"> {
  url: string; // of a paper made of the design
  file: string; // what it is called, after the boat
  asked?: Record<string, unknown>; // beside the design
}

/** A file about the design to keep; what went wrong stands beside it. */
export function SaveAs({ url, file, asked, ...button }: Props) {
  const { design } = useDesign();
  const [problem, setProblem] = useState<string | null>(null);
  const save = async () =>
    setProblem(await saveFile(url, JSON.stringify({ design, ...asked }), `${design.name}-${file}`));
  return (
    <>
      <LinkButton onClick={() => void save()} {...button} />
      {problem && (
        <span role="alert" className="text-alarm">
          ▲ {problem}
        </span>
      )}
    </>
  );
}
