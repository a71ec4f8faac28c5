import { termName } from "#core/learn";
import { linkName, setPatch } from "#core/plan";
import { counted } from "#core/words";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../desk/DeskContext";
import { Button, figure, signedFigure, Table } from "../ui";
import { keepPatches } from "../keep/keepPatches";
import { oddsText } from "./words";
import type { LearnedPage } from "#core/watch";
import { said } from "../work/said";

/** Readings that stray by more than this many times what is usual do not agree with the rest. */
const DISAGREES = 2.5;
const MOST_ROWS = 60;

/** What readings taught about this plan's predictions, what it is worth, and the odds that follow. */
export function LearnedView() {
  const { kept, data, select } = useDesk();
  const planId = kept.plan.id;
  const [page, setPage] = useState<LearnedPage | null>(null);
  const [problem, setProblem] = useState("");
  useEffect(() => {
    const leaving = new AbortController();
    fetch(`/plans/${planId}/watch/learned`, { signal: leaving.signal })
      .then(async (response) =>
        response.ok ? setPage((await response.json()) as LearnedPage) : setProblem(await said(response)),
      )
      .catch(() => leaving.signal.aborted || setProblem("Tejado does not answer; try again."));
    return () => leaving.abort();
  }, [planId, data.revision]);
  if (problem !== "")
    return (
      <p role="alert" className="p-6 text-sm">
        {problem}
      </p>
    );
  if (!page) return <p className="p-6 text-sm text-quiet">Reading…</p>;
  const { learned, taughtBy, before, after, odds, expectedServed, settling } = page;
  const inUse = kept.plan.learned;
  const keep = async (next: typeof inUse, what: string) => {
    const { ok, message } = await keepPatches(
      planId,
      data.revision,
      [setPatch("plans", planId, { learned: next })],
      what,
    );
    if (!ok) toast.error(message);
  };
  const link = (linkId: string) => (
    <button type="button" className="text-left hover:text-clay" onClick={() => select({ kind: "link", id: linkId })}>
      {kept.links.has(linkId) ? linkName(kept, linkId) : linkId}
    </button>
  );
  return (
    <div className="h-full space-y-4 overflow-y-auto p-3 text-[13px]" tabIndex={0} role="region" aria-label="Learned">
      <section>
        <p className="text-xs text-quiet">
          Readings correct what trees, the ground, walls and each area take. The correction has a line of its own on
          every tape, is never mixed into the physics, and goes with one click. Coverage is drawn without it.
        </p>
        {taughtBy.length === 0 ? (
          <p className="mt-2">Nothing was read yet: proofs, and the watch's last week, teach.</p>
        ) : (
          <>
            <p className="mt-2">
              {counted(taughtBy.length, "reading")}: predictions stray by{" "}
              <span className="figures">{figure(before)} dB</span> without and by{" "}
              <span className="figures">{figure(after)} dB</span> with what the other readings taught, root mean square,
              each held out in its turn.
              {after >= before && " Nothing is gained by it yet."}
            </p>
            <div className="mt-2 flex flex-wrap gap-2">
              <Button
                look={after < before ? "primary" : "plain"}
                onClick={() => void keep(learned, `Took over what ${counted(taughtBy.length, "reading")} taught`)}
              >
                {inUse ? "Learn again from today's readings" : "Use it in predictions"}
              </Button>
              {inUse && (
                <Button
                  aria-pressed={inUse.isOn}
                  onClick={() =>
                    void keep(
                      { ...inUse, isOn: !inUse.isOn },
                      inUse.isOn ? "Switched off what was learned" : "Switched on what was learned",
                    )
                  }
                >
                  {inUse.isOn ? "Switch it off" : "Switch it on"}
                </Button>
              )}
              <span className="self-center text-xs text-quiet">
                {inUse
                  ? inUse.isOn
                    ? `In use, of ${counted(inUse.readings, "reading")}.`
                    : "Switched off: tapes are physics alone."
                  : "Not in use: tapes are physics alone."}
              </span>
            </div>
          </>
        )}
      </section>
      <section>
        <h3 className="font-semibold">Odds</h3>
        <p>
          Of {counted(odds.length, "linked customer")} <span className="figures">{figure(expectedServed, 1)}</span> are
          expected to be served.
          {settling && (
            <>
              {" "}
              Read the level at {link(settling.linkId)}: it moves the odds of{" "}
              {counted(settling.movesIds.length, "house")} by a twentieth or more.
            </>
          )}
        </p>
        <Table
          caption="Customers by their odds, the least sure first"
          columns={[
            { name: "Link" },
            { name: "Served", isNumber: true },
            { name: "Correction", isNumber: true },
            { name: "Read" },
          ]}
        >
          {odds.slice(0, MOST_ROWS).map((one) => (
            <tr key={one.linkId}>
              <td>{link(one.linkId)}</td>
              <td className="figures text-right">{oddsText(one.odds)}</td>
              <td className="figures text-right">
                {one.correctionDb === 0 ? "–" : `${signedFigure(one.correctionDb)} dB`}
              </td>
              <td>{one.isRead ? "✓" : "–"}</td>
            </tr>
          ))}
        </Table>
        {odds.length > MOST_ROWS && (
          <p className="text-xs text-quiet">{odds.length - MOST_ROWS} surer ones are not listed.</p>
        )}
      </section>
      {taughtBy.length > 0 && (
        <section>
          <h3 className="font-semibold">What was learned</h3>
          <Table
            caption="Terms of the correction"
            columns={[
              { name: "Term" },
              { name: "dB", isNumber: true },
              { name: "give or take", isNumber: true },
              { name: "Readings", isNumber: true },
            ]}
          >
            {learned.terms.map(({ key, value, sd, readings }) => (
              <tr key={key}>
                <td>{termName(key)}</td>
                <td className="figures text-right">{signedFigure(value, 2)}</td>
                <td className="figures text-right">{figure(sd, 2)}</td>
                <td className="figures text-right">{readings}</td>
              </tr>
            ))}
          </Table>
          <h3 className="mt-3 font-semibold">Link by link, those that disagree first</h3>
          <Table
            caption="Error of each reading before and after"
            columns={[
              { name: "Link" },
              { name: "From" },
              { name: "Physics alone, dB", isNumber: true },
              { name: "With the others' lesson, dB", isNumber: true },
              { name: "" },
            ]}
          >
            {taughtBy.slice(0, MOST_ROWS).map((one) => (
              <tr key={one.linkId}>
                <td>{link(one.linkId)}</td>
                <td>{one.from === "proof" ? "proof" : "watch"}</td>
                <td className="figures text-right">{signedFigure(one.physicsErrorDb)}</td>
                <td className="figures text-right">{signedFigure(one.learnedErrorDb)}</td>
                <td>{one.strays > DISAGREES ? "✕ disagrees" : ""}</td>
              </tr>
            ))}
          </Table>
        </section>
      )}
    </div>
  );
}
