import type { Problems } from "#accounts";
import { TextField } from "../ui";

/** The boxes of a new account. What is wrong with one stands under it. */
export function NewAccountFields({ problems, typed }: { problems: Problems; typed: { login: string; name: string } }) {
  const error = (label: string, problem: string | undefined) => problem && `${label} ${problem}`;
  return (
    <>
      <TextField
        name="name"
        label="Name, as it stands in the logbook"
        autoComplete="name"
        defaultValue={typed.name}
        error={error("Name", problems.name)}
      />
      <TextField
        name="login"
        label="Login"
        autoComplete="username"
        autoCapitalize="none"
        defaultValue={typed.login}
        error={error("Login", problems.login)}
      />
      <TextField
        name="password"
        type="password"
        label="Password"
        hint="12 characters or more; a sentence does well."
        autoComplete="new-password"
        error={error("Password", problems.password)}
      />
    </>
  );
}
