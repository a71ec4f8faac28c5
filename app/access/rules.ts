import type { Role } from "#wire";

/** Who may: anybody at all, whoever is signed in, the keepers of this Tejado, or those with one of some roles in the plan. */
export type Who = "anyone" | "account" | "keeper" | readonly Role[];

/** Who may look at an address, who may change something there, and how long what he sends may be. */
export interface Rule {
  read: Who;
  write: Who;
  /** Most bytes of a body; FORM_BYTES where left out. */
  bytes?: number;
}

const KB = 1024;
const MB = 1024 * KB;
/** Bytes of a form, or of a short question: strangers send no more anywhere. */
export const FORM_BYTES = 64 * KB;
/** The largest change of a plan: 25 000 rows of 0.8 kB. */
const CHANGE_BYTES = 20 * MB;
/** Every row of a plan by its id. */
const IDS_BYTES = 2 * MB;

const EVERY_MEMBER: readonly Role[] = ["owner", "planner", "crew", "viewer"];
const READERS: readonly Role[] = ["owner", "planner", "viewer"];
const PLANNERS: readonly Role[] = ["owner", "planner"];
const CREW: readonly Role[] = ["owner", "planner", "crew"];
const OWNERS: readonly Role[] = ["owner"];

const open: Rule = { read: "anyone", write: "anyone" };
const own: Rule = { read: "account", write: "account" };
const kept: Rule = { read: "keeper", write: "keeper" };
/** Planners change it, viewers look on. */
const planned: Rule = { read: READERS, write: PLANNERS };
/** What is asked by a POST because the question is long; nothing changes. */
const asked: Rule = { read: READERS, write: READERS };
/** What a crew needs on a roof, and what it brings back. */
const onTheRoof: Rule = { read: EVERY_MEMBER, write: CREW };

/** Who may do what at each address, by its pattern in app/routes.ts. One that is not here answers nobody. */
export const RULES: Readonly<Record<string, Rule>> = {
  "/": own,
  "/health": open,
  "/preferences": open,
  "/sign-in": open,
  "/passkeys": open,
  "/invitations/:token": open,
  "/schemas/radios.json": open,
  "/schemas/rows.json": open,
  "/you": own,
  "/account": own,
  "/people": kept,
  "/backups": kept,
  "/backups/:name": kept,
  "/archives": own,
  "/archives/:jobId": own,
  "/plans/:planId/people": { read: OWNERS, write: OWNERS },
  "/plans/:planId/crew": { read: EVERY_MEMBER, write: [] },
  "/plans/:planId/field": { ...onTheRoof, bytes: 8 * MB },
  "/plans/:planId/field/notes": { read: READERS, write: [] },
  "/plans/:planId/field/voices": { ...onTheRoof, bytes: 5 * MB },
  "/plans/:planId/field/voices/:noteId": onTheRoof,
  "/plans/:planId/jobs.ics": { read: EVERY_MEMBER, write: [] },
  "/plans/:planId/visits/:visitId/pack.pdf": { read: EVERY_MEMBER, write: [] },
  "/plans/:planId/visits/:visitId/certificate.pdf": { read: EVERY_MEMBER, write: [] },
  "/plans/:planId/links/:linkId/sheet": { read: EVERY_MEMBER, write: [] },
  "/plans/:planId/links/:linkId/sheet.pdf": { read: EVERY_MEMBER, write: [] },
  "/plans/:planId/links/:linkId/proof": onTheRoof,
  "/plans/:planId/photos": { ...onTheRoof, bytes: 4 * MB },
  "/plans/:planId/photos/:photoId": onTheRoof,
  "/plans/:planId/profiles": asked,
  "/plans/:planId/relief/:z/:x/:y": asked,
  "/plans/:planId/names": asked,
  "/plans/:planId/ground": asked,
  "/plans/:planId/heard": asked,
  "/plans/:planId/around": asked,
  "/plans/:planId/sectors-heard": asked,
  "/plans/:planId/removal": { ...asked, bytes: IDS_BYTES },
  "/plans/:planId/since": asked,
  "/plans/:planId/window": asked,
  "/plans/:planId/events": asked,
  "/plans/:planId/places": asked,
  "/plans/:planId/remedies": asked,
  "/plans/:planId/views": { ...asked, bytes: CHANGE_BYTES },
  "/plans/:planId/coverage": { ...planned, bytes: MB },
  "/plans/:planId/cells-hear": { ...asked, bytes: CHANGE_BYTES },
  "/plans/:planId/changes": { ...planned, bytes: CHANGE_BYTES },
  "/plans/:planId/searches": { ...planned, bytes: CHANGE_BYTES },
  "/plans/:planId/searches/:searchId": planned,
  "/plans/:planId/terrain": planned,
  "/plans/:planId/jobs/:jobId": planned,
  "/plans/:planId/archive/:fileId": planned,
  "/plans/:planId/export/file": { ...planned, bytes: MB },
  "/plans/:planId/kit/:file": planned,
  "/plans/:planId/stock": planned,
  "/plans/:planId/staging/notes": { read: PLANNERS, write: PLANNERS, bytes: IDS_BYTES },
  "/plans/:planId/watch/kept": { ...planned, bytes: 12 * MB },
  "/plans/:planId/watch/links/:linkId": { read: READERS, write: [] },
  "/plans/:planId/watch/learned": { read: READERS, write: [] },
  "/plans/:planId/watch/month.pdf": { read: READERS, write: [] },
  "/plans/:planId/watch/run.pdf": { read: READERS, write: [] },
  "/plans/:planId": planned,
  "/plans/:planId/:stage?": planned,
  "/plans/:planId/export": planned,
  "/plans/:planId/register": planned,
  "/plans/:planId/noise": planned,
  "/plans/:planId/import": planned,
  "/plans/:planId/logbook": planned,
  "/plans/:planId/versions": planned,
  "/plans/:planId/library": planned,
  "/plans/:planId/library/antennas": planned,
  "/plans/:planId/library/radios/:radioId": planned,
  "/plans/:planId/rules": planned,
  "/plans/:planId/settings": planned,
};

/** What came of asking whether somebody may. */
type Decision = "yes" | "signIn" | "no" | "hidden";

/** Whether somebody with a role in the plan, or with none, may do what is asked. Whoever has nothing to do with a plan does not learn that it is there. */
export function decide(
  rule: Rule | undefined,
  isChange: boolean,
  asker: { isKeeper: boolean; role: Role | null } | null,
): Decision {
  const who = rule && (isChange ? rule.write : rule.read);
  if (!who) return asker ? "hidden" : "signIn";
  if (who === "anyone") return "yes";
  if (!asker) return "signIn";
  if (who === "account") return "yes";
  if (who === "keeper") return asker.isKeeper ? "yes" : "no";
  // A keeper is an owner of every plan.
  const role = asker.isKeeper ? "owner" : asker.role;
  if (role === null) return "hidden";
  return who.includes(role) ? "yes" : "no";
}
