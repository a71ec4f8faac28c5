import { asAccount } from "#accounts";
import { roleIn } from "#store";
import type { Role } from "#wire";
import { data, redirect, type MiddlewareFunction } from "react-router";
import { getStore } from "../requests/store.server";
import { accessInContext } from "./context";
import { decide, FORM_BYTES, RULES } from "./rules";

/** The one place where it is decided who may do what. It stands before every route; beyond this machine no address is answered without it. */
export const gate: MiddlewareFunction<Response> = async ({ request, params, pattern, context }, next) => {
  const { isOpen, account } = context.get(accessInContext);
  const address = `/${pattern.replace(/^\/+/, "")}`;
  const rule = Object.hasOwn(RULES, address) ? RULES[address] : undefined;
  if (!isOpen) {
    requireShort(request, rule?.bytes);
    return toldOfRoom(await asAccount(null, next));
  }
  const isChange = request.method !== "GET" && request.method !== "HEAD";
  const role = account && params.planId ? await roleHere(params.planId, account.id) : null;
  const decision = decide(rule, isChange, account && { isKeeper: account.isKeeper, role });
  if (decision === "yes") {
    requireShort(request, rule?.bytes);
    const response = await toldOfRoom(await asAccount(account, next));
    // Do not let the browser store private pages: after sign-out, Back must not show them.
    if (account && !response.headers.has("cache-control")) response.headers.set("cache-control", "no-store");
    return response;
  }
  if (decision === "no") throw data("Your role does not allow this.", { status: 403 });
  if (decision === "hidden") throw data("There is nothing here, or nothing for you.", { status: 404 });
  const { pathname, search } = new URL(request.url);
  const wantsPage = !isChange && (request.headers.get("accept") ?? "").includes("text/html");
  if (wantsPage || pathname.endsWith(".data")) {
    const to = pathname.replace(/\.data$/, "").replace(/^\/_root$/, "/") + search;
    throw redirect(`/sign-in?${new URLSearchParams({ to })}`);
  }
  throw data("Sign in first.", { status: 401 });
};

/** The answer; where it is a failure and the disk is full, that is said in its place. */
async function toldOfRoom(response: Response): Promise<Response> {
  const problem = response.status === 500 ? (await getStore()).roomProblem() : null;
  if (problem !== null) throw data(problem, { status: 507 });
  return response;
}

/** Refuses a body that is longer than its address takes: nothing of it is read. Node holds a sender to the length that was said. */
function requireShort(request: Request, most = FORM_BYTES): void {
  const bytes = Number(request.headers.get("content-length") ?? 0);
  if (bytes > most)
    throw data(`The request has ${bytes} bytes; at most ${most} are taken here. Nothing of it was kept.`, {
      status: 413,
    });
}

const roleHere = async (planId: string, accountId: string): Promise<Role | null> =>
  roleIn((await getStore()).db, planId, accountId);
