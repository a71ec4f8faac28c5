import { useCallback, useLayoutEffect } from "react";
import { useLocation, useNavigate, useSearchParams, type NavigateOptions } from "react-router";

/** The step of the history that the page shows, its parameters, and what they were asked to become since; null where nothing was. */
const address = { key: "", shown: "", asked: null as string | null };

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
  useLayoutEffect(() => {
    const step = `${key} ${pathname}${search}`;
    if (address.key === step) return;
    Object.assign(address, { key: step, shown: search, asked: null });
  }, [key, pathname, search]);
  const set = useCallback(
    (change: (params: URLSearchParams) => void, options?: NavigateOptions) => {
      const next = new URLSearchParams(address.asked ?? address.shown);
      change(next);
      address.asked = next.toString();
      void navigate(`?${address.asked}`, options);
    },
    [navigate],
  );
  return [params, set];
}

/** Gives a parameter a value, or takes it out where it has none. */
export function setOrDrop(params: URLSearchParams, name: string, value: string | null): void {
  if (value === null) params.delete(name);
  else params.set(name, value);
}
