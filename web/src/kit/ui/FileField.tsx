interface Props {
  label: string;
  name: string; // for those who do not see it
  accept: string;
  mostBytes: number;
  onText?: (text: string, file: File) => void;
  onFile?: (file: File) => void; // of what is no text
  onTooLarge: () => void;
  inline?: boolean; // in one line with its label
}

/** Asks for a file; the same one may be given again. */
export function FileField({ label, name, accept, mostBytes, onText, onFile, onTooLarge, inline }: Props) {
  return (
    <label className={inline ? "flex items-center gap-2 text-muted" : "text-muted"}>
      {label}
      <input
        type="file"
        aria-label={name}
        className="block max-w-full file:mr-2 file:cursor-pointer file:rounded-[6px] file:border file:border-solid file:border-edge file:bg-field file:px-2 file:py-1 file:text-ink"
        accept={accept}
        onChange={async (event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (!file) return;
          if (file.size > mostBytes) return onTooLarge();
          onFile?.(file);
          onText?.(await file.text(), file);
        }}
      />
    </label>
  );
}
