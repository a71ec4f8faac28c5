import { hash, verify } from "@node-rs/argon2";

/** argon2id with the least that OWASP's Password Storage Cheat Sheet asks for (2024): 19 MiB, two passes, one lane. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

const LEAST_PASSWORD = 12;
const MOST_PASSWORD = 200;

/** What is wrong with a new password, in words; null where it will do. */
export function passwordProblem(password: string, login: string): string | null {
  if (password.length < LEAST_PASSWORD) return `must have ${LEAST_PASSWORD} characters or more`;
  if (password.length > MOST_PASSWORD) return `must have ${MOST_PASSWORD} characters or fewer`;
  const plain = password.toLowerCase();
  if (login !== "" && plain.includes(login.toLowerCase())) return "must not hold the login";
  if (new Set(plain).size < LEAST_DIFFERENT) return `must have ${LEAST_DIFFERENT} different characters or more`;
  return null;
}
const LEAST_DIFFERENT = 5;

export const hashPassword = (password: string): Promise<string> => hash(password, COST);

let nobody: Promise<string> | undefined;

/** Whether a password opens a hash. For no hash it takes as long and says no, so that nobody learns who has an account. */
export async function opens(password: string, passwordHash: string | null): Promise<boolean> {
  nobody ??= hashPassword("nobody has this password");
  const known = passwordHash ?? (await nobody);
  const isRight = await verify(known, password.slice(0, MOST_PASSWORD + 1)).catch(() => false);
  return isRight && passwordHash !== null;
}
