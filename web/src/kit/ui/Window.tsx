import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  open?: boolean;
  onOpen: (open: boolean) => void;
  title: ReactNode;
  about?: ReactNode; // a line under the title
  width: number;
  column?: boolean; // its middle scrolls, and its foot stays
  closing?: string;
  foot?: ReactNode; // beside the button that closes it
  children: ReactNode;
}

/** A sheet over the page. */
export function Window({ open = true, onOpen, title, about, width, column, closing, foot, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-black/35" />
        <Dialog.Content
          className={`sheet window ${column ? "flex flex-col" : "overflow-y-auto"}`}
          style={{ width }}
          {...(about ? {} : { "aria-describedby": undefined })}
        >
          <Dialog.Title className="m-0 mb-1 text-[18px] font-bold">{title}</Dialog.Title>
          {about && <Dialog.Description className="mt-0 mb-2 text-muted">{about}</Dialog.Description>}
          {children}
          {closing && (
            <div className="mt-3 flex justify-end gap-2">
              <Dialog.Close className="btn">{closing}</Dialog.Close>
              {foot}
            </div>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

const SHOWN = 6; // lines that were wrong, before "and more"

/** What was wrong in a table that was brought, line by line. */
export const LinesWrong = ({ of }: { of: { line: number; message: string; accepted?: string | null }[] }) =>
  of.length > 0 && (
    <ul role="alert" className="m-0 list-none p-0 text-[13px] text-alarm">
      {of.slice(0, SHOWN).map((problem) => (
        <li key={`${problem.line} ${problem.message}`}>
          ▲ Line {problem.line}: {problem.message} Accepted: {problem.accepted}.
        </li>
      ))}
      {of.length > SHOWN && <li>and {of.length - SHOWN} more</li>}
    </ul>
  );
