import type { RateChange } from "#core/channels";
import { figure, Table } from "../../ui";
import { placeNameOf } from "../../desk/names";
import type { World } from "#core/plan";

const NUMBER = "figures text-right whitespace-nowrap";

/** Whose rates come or go, those with most people and most of their rate first. */
export function RateChanges({
  world,
  title,
  changes,
}: {
  world: World;
  title: string;
  changes: readonly RateChange[];
}) {
  if (changes.length === 0) return null;
  const nameOf = (linkId: string) => {
    const link = world.links.get(linkId);
    if (!link) return "a link";
    const far = placeNameOf(world, link.bRadioId);
    return link.kind === "bridge" ? `${placeNameOf(world, link.aRadioId)} – ${far}` : far;
  };
  return (
    <div className="mt-2">
      <h4 className="font-semibold">
        {title} ({changes.length})
      </h4>
      <div className="max-h-56 overflow-y-auto" tabIndex={0} role="region" aria-label={title}>
        <Table
          caption={title}
          isSticky
          columns={[
            { name: "Link" },
            { name: "People", isNumber: true },
            { name: "Down, Mbit/s", isNumber: true },
            { name: "Up, Mbit/s", isNumber: true },
          ]}
        >
          {changes.map(({ linkId, people, beforeMbps, afterMbps }) => (
            <tr key={linkId}>
              <td>{nameOf(linkId)}</td>
              <td className={NUMBER}>{people === 0 ? "bridge" : people}</td>
              {[0, 1].map((way) => (
                <td key={way} className={NUMBER}>
                  {figure(beforeMbps[way]!, 0)} → {figure(afterMbps[way]!, 0)}
                </td>
              ))}
            </tr>
          ))}
        </Table>
      </div>
    </div>
  );
}
