import { useCallback } from "react";
import { useNavigate, useSearchParams } from "react-router";

/** What stands in the address after the question mark, and a change of it.
 *
 * A change begins from the address as it stands when it is made, which may be newer than what is drawn: two changes
 * soon after each other both hold, and one made after the person went on does not lead them back.
 */
export function useSearch() {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const change = useCallback(
    (alter: (search: URLSearchParams) => void, replace = false) => {
      const { pathname, search: now } = window.location;
      const next = new URLSearchParams(now);
      alter(next);
      void navigate({ pathname, search: next.toString() }, { replace });
    },
    [navigate],
  );
  return [search, change] as const;
}
