import { deliveryOf } from "#core/bill";
import type { Outcome } from "#core/outcome";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { Button, euros, figure, roughly, Term } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { AsideDrafts, DiscardButton } from "./DraftButtons";

interface Row {
  label: string;
  meaning: string;
  of: (outcome: Outcome) => number | null;
  show: (value: number) => string;
  /** What stands once behind both figures, where each is told without. */
  unit?: string;
  /** Whether more is better, for the mark beside a change. */
  moreIsBetter: boolean;
}

const ROWS: Row[] = [
  {
    label: "Served",
    meaning:
      "Subscribers who get what they ask for: the link keeps the wanted margin and carries the demand both ways, and its site is fed.",
    of: (o) => o.customersServed,
    show: (v) => String(v),
    moreIsBetter: true,
  },
  {
    label: "Weakest margin",
    meaning: "The smallest margin left on any link, rain counted.",
    of: (o) => o.weakestMarginDb,
    show: (v) => `${figure(v)} dB`,
    moreIsBetter: true,
  },
  {
    label: "Noise made",
    meaning:
      "For every access point and bridge end, the open ground over which it stands above the noise floor of a receiver that does not want it, in km², times the people of this plan who live there and are not its own.",
    of: (o) => o.noiseMadePeopleKm2,
    show: roughly,
    unit: "people·km²",
    moreIsBetter: false,
  },
  {
    label: "Cost",
    meaning: "The bill of materials at the library's prices, spares and whole packs included.",
    of: (o) => o.costEur,
    show: euros,
    moreIsBetter: false,
  },
];

/** The foot of the desk: kept beside in hand, and what to do with it. */
export function ChangeBar({ onKeep, busy }: { onKeep: (reason: string) => void; busy: boolean }) {
  const { data, draft, kept, outcome, rates, settled, world } = useDesk();
  const [reason, setReason] = useState("");
  const inHand = draft.patches.length > 0;
  const { faster, slower } = rates;
  const delivery = useMemo(
    () => (inHand ? deliveryOf(kept, world, draft.patches) : null),
    [inHand, kept, world, draft.patches],
  );
  return (
    <footer
      aria-label="Change in hand"
      className={`relative flex min-h-9 shrink-0 flex-wrap items-center gap-x-4 gap-y-0.5 border-t px-3 py-0.5 text-[13px] max-md:py-1 ${inHand ? "border-clay bg-panel" : "border-rule bg-panel"}`}
    >
      {ROWS.map(({ label, meaning, of, show, unit, moreIsBetter }) => {
        const kept = data.shown && of(data.shown.outcome);
        const now = outcome && of(outcome);
        const changed = inHand && kept !== null && now !== null && show(kept) !== show(now);
        const better = changed && now! > kept! === moreIsBetter;
        return (
          <span key={label} className="flex items-baseline gap-1.5 whitespace-nowrap">
            <span className="text-xs text-quiet">
              <Term meaning={meaning}>{label}</Term>
            </span>
            <span className="figures">{kept === null ? "–" : show(kept)}</span>
            {inHand && (
              <span
                className={`figures font-semibold ${changed ? (better ? "text-clear" : "text-blocked") : "text-quiet"}`}
                data-in-hand={label}
              >
                → {!settled ? "…" : now === null ? "–" : show(now)}
                {changed && settled && <span aria-label={better ? "better" : "worse"}> {better ? "▲" : "▼"}</span>}
              </span>
            )}
            {unit && <span className="text-xs text-quiet">{unit}</span>}
          </span>
        );
      })}
      {inHand && (
        <span className="flex items-baseline gap-1.5 whitespace-nowrap">
          <span className="text-xs text-quiet">
            <Term meaning="Links that run faster, and links that run slower, both directions on balance, by this change and by the noise that it makes.">
              Rates
            </Term>
          </span>
          <span className="figures font-semibold" data-in-hand="Rates">
            {!settled ? (
              "…"
            ) : (
              <>
                <span className={faster > 0 ? "text-clear" : "text-quiet"} aria-label={`${faster} faster`}>
                  ▲ {faster}
                </span>{" "}
                <span className={slower > 0 ? "text-blocked" : "text-quiet"} aria-label={`${slower} slower`}>
                  ▼ {slower}
                </span>
              </>
            )}
          </span>
        </span>
      )}
      {delivery && (
        <span className="flex items-baseline gap-1.5 whitespace-nowrap">
          <span className="text-xs text-quiet">
            <Term
              meaning={`The longest wait among what this change needs more of, by the library: ${delivery.name}.${delivery.unknown > 0 ? ` Of ${counted(delivery.unknown, "item")} nobody knows.` : ""}`}
            >
              Delivery
            </Term>
          </span>
          <span className="figures" data-in-hand="Delivery">
            {delivery.unknown > 0 && "at least "}
            {counted(delivery.days, "day")}
          </span>
        </span>
      )}
      {inHand ? (
        <form
          className="ml-auto flex min-w-0 items-center gap-2 max-md:w-full"
          onSubmit={(event) => {
            event.preventDefault();
            onKeep(reason);
            setReason("");
          }}
        >
          <input
            aria-label="Reason"
            placeholder="Reason (optional)"
            value={reason}
            maxLength={200}
            onChange={(event) => setReason(event.target.value)}
            className="w-36 min-w-0 rounded border border-rule bg-panel px-2 py-0.5 text-sm"
          />
          <Button type="submit" look="primary" disabled={busy} className="py-0.5">
            Keep <kbd className="text-xs">Enter</kbd>
          </Button>
          <DiscardButton busy={busy} />
        </form>
      ) : (
        <span className="ml-auto flex items-center gap-3 text-xs text-quiet">
          <AsideDrafts />
          <span className="max-md:hidden">
            {data.shown === null
              ? "The plan is being worked out: its figures come as soon as they are known."
              : "Nothing in hand: every change is tried here before it is kept."}
          </span>
        </span>
      )}
    </footer>
  );
}
