import { useState } from "react";
import { Button, TextField } from "../ui";

/** Asks the server about passkeys. */
async function ask<Answer>(body: object): Promise<Answer> {
  const response = await fetch("/passkeys", {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  });
  return (await response.json()) as Answer;
}

const REFUSED = "This did not work. Nothing was changed; try again, or use the password.";

/** Signs in with a passkey, or makes one for the account that is signed in. */
export function PasskeyButton({ kind, onDone }: { kind: "sign-in" | "register"; onDone: () => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [password, setPassword] = useState("");
  const isNew = kind === "register";
  const go = async () => {
    setBusy(true);
    setProblem(null);
    try {
      // Loaded when it is wanted: most pages do without.
      const { startAuthentication, startRegistration } = await import("@simplewebauthn/browser");
      const { options, problem: refusal } = await ask<{ options: never; problem?: string }>({
        intent: `${kind}-options`,
        ...(isNew && { password }),
      });
      if (refusal) return setProblem(refusal);
      setPassword("");
      const response =
        kind === "sign-in"
          ? await startAuthentication({ optionsJSON: options })
          : await startRegistration({ optionsJSON: options });
      const { ok } = await ask<{ ok: boolean }>({ intent: kind, response });
      if (ok) onDone();
      else setProblem(REFUSED);
    } catch {
      setProblem(REFUSED);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      {isNew && (
        <TextField
          name="passkey-password"
          type="password"
          label="Present password, for a new passkey"
          autoComplete="current-password"
          value={password}
          onChange={({ target }) => setPassword(target.value)}
        />
      )}
      <Button onClick={() => void go()} disabled={busy || (isNew && password === "")}>
        {kind === "sign-in" ? "Use a passkey" : "Add a passkey"}
      </Button>
      {problem && (
        <p role="alert" className="self-center text-sm text-blocked">
          {problem}
        </p>
      )}
    </>
  );
}
