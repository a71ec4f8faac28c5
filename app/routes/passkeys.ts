import {
  accountShown,
  openSession,
  presentPasswordProblem,
  register,
  registrationOptions,
  signInOptions,
  whoAsks,
} from "#accounts";
import { data } from "react-router";
import { z } from "zod";
import { askerOf, siteOf } from "../access/asker.server";
import { accessInContext } from "../access/context";
import { sessionCookie } from "../access/session";
import { askedOf } from "../requests/asked.server";
import { getStore } from "../requests/store.server";
import type { Route } from "./+types/passkeys";

/** What a browser answers; the library that reads it looks closer. */
const shown = z.looseObject({ id: z.string().min(1).max(2000), response: z.looseObject({}) });
const askSchema = z.discriminatedUnion("intent", [
  z.object({ intent: z.literal("sign-in-options") }),
  z.object({ intent: z.literal("sign-in"), response: shown }),
  z.object({ intent: z.literal("register-options"), password: z.string().max(300) }),
  z.object({ intent: z.literal("register"), response: shown }),
]);

/** Passkeys are for names, not for numbers. */
const BY_NUMBER = "Passkeys need a name: open Tejado by its host name instead of its number.";
const isNumber = (host: string) => /^[\d.]+$/.test(host) || host.startsWith("[");

/** Signs in by passkey, and makes one for whoever is signed in. */
export async function action({ request, context }: Route.ActionArgs) {
  const asked = await askedOf(request, askSchema, "Passkeys");
  const { db } = await getStore();
  const site = siteOf(request, context);
  if (isNumber(site.host)) return data({ ok: false, problem: BY_NUMBER }, { status: 422 });
  if (asked.intent === "sign-in-options") return data({ ok: true, options: await signInOptions(site) });
  if (asked.intent === "sign-in") {
    const accountId = await accountShown(db, asked.response as unknown as Parameters<typeof accountShown>[1], site);
    if (accountId === null) return data({ ok: false }, { status: 401 });
    const token = await openSession(db, accountId, askerOf(request, context));
    const { isSecure } = context.get(accessInContext);
    return data({ ok: true }, { headers: { "Set-Cookie": sessionCookie(token, isSecure) } });
  }
  const account = whoAsks();
  if (!account) return data({ ok: false, problem: "Sign in first." }, { status: 401 });
  if (asked.intent === "register-options") {
    const problem = await presentPasswordProblem(db, account, asked.password);
    if (problem !== null) return data({ ok: false, problem }, { status: 422 });
    return data({ ok: true, options: await registrationOptions(db, account, site) });
  }
  const isKept = await register(db, account, asked.response as unknown as Parameters<typeof register>[2], site);
  return data({ ok: isKept }, { status: isKept ? 200 : 422 });
}
