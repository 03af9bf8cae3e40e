import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { LinkButton } from "../kit/ui/LinkButton";

interface Notice {
  text: string;
  action?: { label: string; run: () => void };
}
const Context = createContext<(notice: Notice) => void>(() => undefined);

/** One short notice at a time, with at most one thing to do about it; it stays until it is put away. */
export function ToastProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const show = useCallback((next: Notice) => setNotice(next), []);
  return (
    <Context.Provider value={show}>
      {children}
      <div aria-live="polite" className="fixed bottom-[120px] left-1/2 z-40 -translate-x-1/2">
        {notice && (
          <div className="sheet flex max-w-[92vw] items-center gap-4 px-4 py-2.5">
            <span>{notice.text}</span>
            {notice.action && (
              <LinkButton
                onClick={() => {
                  notice.action?.run();
                  setNotice(null);
                }}
              >
                {notice.action.label}
              </LinkButton>
            )}
            <button
              type="button"
              className="cross"
              aria-label="Put this notice away"
              onClick={() => setNotice(null)}
            >
              ×
            </button>
          </div>
        )}
      </div>
    </Context.Provider>
  );
}

export const useToast = () => useContext(Context);
