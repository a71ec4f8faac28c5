import type { Patch } from "#core/plan";
import { Button } from "../../ui";

/** Changes that could be taken in hand, each with what it would come to. */
export function Ways({
  label,
  ways,
  onTake,
}: {
  label: string;
  ways: readonly { label: string; effect: string; patches: readonly Patch[] }[];
  onTake: (patches: readonly Patch[]) => void;
}) {
  return (
    <ul className="mt-1" aria-label={label}>
      {ways.map((way) => (
        <li key={way.label} className="flex items-start gap-2 border-b border-rule py-1">
          <span className="min-w-0 flex-1">
            {way.label}
            <span className="block text-xs text-quiet">{way.effect}</span>
          </span>
          <Button
            className="px-1.5 py-0 text-xs"
            aria-label={`Take in hand: ${way.label}`}
            onClick={() => onTake(way.patches)}
          >
            Take
          </Button>
        </li>
      ))}
    </ul>
  );
}
