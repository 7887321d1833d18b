import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** The view's address: read a value, set one (empty takes it away). Two quick changes both count. */
export function useAddress(): [URLSearchParams, (name: string, value: string) => void] {
  const [query, setQuery] = useSearchParams();
  const set = useCallback(
    (name: string, value: string) => {
      const next = new URLSearchParams(window.location.search);
      if (value) next.set(name, value);
      else next.delete(name);
      if (next.toString() !== new URLSearchParams(window.location.search).toString()) setQuery(next, { replace: true });
    },
    [setQuery],
  );
  return [query, set];
}
