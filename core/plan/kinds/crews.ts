import { z } from "zod";
import { field, keys, kindOf, name } from "./field";

/** People who work together in one place, and how they are reached there. */
export const crewSchema = z.object({
  ...keys,
  name: field(name, { label: "Name" }),
  people: field(z.string().max(1000), { label: "People, one a line", short: "people", lines: 3 }),
  radioChannel: field(z.string().max(60), { label: "Channel of their hand radios", short: "hand radio channel" }),
  phone: field(z.string().max(60), { label: "Telephone" }),
  logins: field(z.array(z.string().min(1).max(60)).max(30), {
    label: "Accounts that see their jobs",
    short: "accounts",
  }),
});
export type Crew = z.infer<typeof crewSchema>;
export const crews = kindOf(crewSchema, { one: "crew", many: "crews", archiveFrom: 7 });
