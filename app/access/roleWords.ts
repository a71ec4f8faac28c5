import type { Role } from "#wire";

/** Roles as they are called, and what each may do. */
export const ROLE_WORDS: Readonly<Record<Role, { name: string; may: string }>> = {
  owner: { name: "owner", may: "plans, and says who else may do what" },
  planner: { name: "planner", may: "changes everything of the plan" },
  crew: { name: "crew", may: "sees crew sheets, writes readings and photographs, and nothing else" },
  viewer: { name: "viewer", may: "looks at everything and changes nothing" },
};
