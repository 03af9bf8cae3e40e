import { useState } from "react";
import { Alarm } from "./Alarm";
import { FileField } from "./FileField";
import { LinesWrong } from "./Window";

export interface Found {
  said?: string;
  problems: { line: number; message: string; accepted?: string | null }[];
}

interface Props {
  label: string;
  name: string;
  accept: string;
  mostBytes: number;
  tooLarge: string;
  read: (text: string, file: File) => Promise<Found>;
}

/** A file that the server reads: how it went, and what was wrong in it line by line. */
export function ReadFile({ tooLarge, read, ...field }: Props) {
  const [found, setFound] = useState<Found | null>(null);
  const [wrong, setWrong] = useState("");
  async function onText(text: string, file: File) {
    setWrong("");
    setFound({ said: "Reading …", problems: [] });
    try {
      setFound(await read(text, file));
    } catch {
      setFound(null);
      setWrong("The file could not be read; try again.");
    }
  }
  return (
    <>
      <FileField
        {...field}
        onText={(text, file) => void onText(text, file)}
        onTooLarge={() => setWrong(tooLarge)}
      />
      {found?.said && (
        <p role="status" className="m-0">
          {found.said}
        </p>
      )}
      {wrong && <Alarm>{wrong}</Alarm>}
      {found && <LinesWrong of={found.problems} />}
    </>
  );
}
