import { requiredRates, type Link, type LinkEnd } from "#core/plan";
import { useMemo } from "react";
import { figure, SelectField } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { FieldEdit, useSet } from "./fields";

/** Where an inherited rate comes from, in words. */
const FROM_WORDS = { behind: "the customers behind it", feed: "the feed that it brings" } as const;

/** What a bridge must carry each way: inherited from the network, or typed. */
export function MustCarryEditor({ link, a, b }: { link: Link; a: LinkEnd; b: LinkEnd }) {
  const { world } = useDesk();
  const of = { kind: "links", id: link.id } as const;
  const set = useSet(of);
  const inherited = useMemo(() => {
    const untyped = { ...link, mustDownMbps: null, mustUpMbps: null };
    return requiredRates({ ...world, links: new Map([...world.links, [link.id, untyped]]) }).get(link.id) ?? null;
  }, [world, link]);
  if (a.radio.siteId === null || b.radio.siteId === null) return null;
  const isTyped = link.mustDownMbps !== null || link.mustUpMbps !== null;
  const rates = `${figure(inherited?.downMbps ?? 0, 0)} / ${figure(inherited?.upMbps ?? 0, 0)} Mbit/s`;
  const source =
    inherited && inherited.from !== "typed" ? `from ${FROM_WORDS[inherited.from]}, ${rates}` : "nothing yet";
  return (
    <>
      <SelectField
        label="Must carry"
        value={isTyped ? "typed" : "inherited"}
        onChange={({ target }) =>
          set(
            target.value === "typed"
              ? { mustDownMbps: Math.round(inherited?.downMbps ?? 0), mustUpMbps: Math.round(inherited?.upMbps ?? 0) }
              : { mustDownMbps: null, mustUpMbps: null },
          )
        }
      >
        <option value="inherited">{source}</option>
        <option value="typed">as typed</option>
      </SelectField>
      {isTyped && (
        <>
          {(["mustDownMbps", "mustUpMbps"] as const).map((field) => (
            <FieldEdit
              key={field}
              kind="links"
              row={link}
              field={field}
              label={`Must carry to ${(field === "mustDownMbps" ? b : a).placeName}`}
              value={link[field] ?? inherited?.[field === "mustDownMbps" ? "downMbps" : "upMbps"] ?? 0}
            />
          ))}
        </>
      )}
    </>
  );
}
