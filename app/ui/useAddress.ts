import { useCallback } from "react";
import { useLocation, useNavigate, useSearchParams, type NavigateOptions } from "react-router";

/** What the address was last asked to become, and the step of the history from which it was asked. */
let asked = { from: "", search: "" };

/**
 * The parameters of the address and how to change some of them. A change that comes before the page shows the one before it adds to
 * that one, where the router's own setter would begin from what the page still shows and lose it.
 */
export function useAddress(): [
  URLSearchParams,
  (change: (params: URLSearchParams) => void, options?: NavigateOptions) => void,
] {
  const [params] = useSearchParams();
  const { key, pathname, search } = useLocation();
  const navigate = useNavigate();
  const from = `${key} ${pathname}`;
  const set = useCallback(
    (change: (params: URLSearchParams) => void, options?: NavigateOptions) => {
      const next = new URLSearchParams(asked.from === from ? asked.search : search);
      change(next);
      asked = { from, search: next.toString() };
      void navigate(`?${asked.search}`, options);
    },
    [from, search, navigate],
  );
  return [params, set];
}

/** Gives a parameter a value, or takes it out where it has none. */
export function setOrDrop(params: URLSearchParams, name: string, value: string | null): void {
  if (value === null) params.delete(name);
  else params.set(name, value);
}
