import { StrictMode, useEffect, useState } from "react";
import { createRoot } from "react-dom/client";
import { Job } from "./Job";
import { JobList } from "./JobList";
import { FieldContext, useFieldState } from "./useField";
import "./field.css";

/** Where one is: everything stands in the hash, so that a killed page opens where it was. */
function useHash(): string[] {
  const read = () => location.hash.replace(/^#\/?/, "").split("/").filter(Boolean).map(decodeURIComponent);
  const [parts, setParts] = useState(read);
  useEffect(() => {
    const changed = () => setParts(read());
    addEventListener("hashchange", changed);
    return () => removeEventListener("hashchange", changed);
  }, []);
  return parts;
}

function FieldApp() {
  const field = useFieldState();
  const [page, planId, visitId, side, tab] = useHash();
  const theme = field.setting("theme");
  useEffect(() => {
    document.documentElement.dataset.theme = theme || "light";
  }, [theme]);
  if (!field.isReady) return <p className="p-4">Opening what is on this phone…</p>;
  return (
    <FieldContext value={field}>
      {page === "job" && planId && visitId ? (
        <Job planId={planId} visitId={visitId} side={side === "a" ? "a" : "b"} tab={tab ?? "before"} />
      ) : (
        <JobList planId={page === "plan" ? (planId ?? null) : null} />
      )}
    </FieldContext>
  );
}

createRoot(document.getElementById("field")!).render(
  <StrictMode>
    <FieldApp />
  </StrictMode>,
);
if ("serviceWorker" in navigator && import.meta.env.PROD) void navigator.serviceWorker.register("/field/sw.js");
