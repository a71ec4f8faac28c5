import { endOf, linkName, setPatch } from "#core/plan";
import { counted } from "#core/words";
import { Link } from "react-router";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import { Button, figure, signedFigure, Table } from "../../ui";
import { LearnedErrors, LearnedTerms } from "./LearnedTables";
import { keepPatches } from "../../keep/keepPatches";
import { oddsText } from "../../ui/WatchMark";
import type { LearnedPage } from "#core/calibration";
import { useAnswer } from "../../ask/useAnswer";

const MOST_ROWS = 60;

/** What readings taught about this plan's predictions, what it is worth, and the odds that follow. */
export function LearnedView() {
  const { kept, data, select } = useDesk();
  const planId = kept.plan.id;
  const { answer: page, failed } = useAnswer<LearnedPage>({
    address: `/plans/${planId}/watch/learned`,
    of: [data.revision],
  });
  if (failed)
    return (
      <p role="alert" className="p-6 text-sm">
        {failed}
      </p>
    );
  if (!page) return <p className="p-6 text-sm text-quiet">Reading…</p>;
  const { learned, taughtBy, noise, outliers, odds, expectedServed, settling } = page;
  const readings = taughtBy.length + noise.taughtBy.length;
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
  const endName = (radioId: string) => (kept.radios.has(radioId) ? endOf(kept, radioId).placeName : radioId);
  const link = (linkId: string) => (
    <button type="button" className="text-left hover:text-clay" onClick={() => select({ kind: "link", id: linkId })}>
      {kept.links.has(linkId) ? linkName(kept, linkId) : linkId}
    </button>
  );
  return (
    <div className="h-full space-y-4 overflow-y-auto p-3 text-[13px]" tabIndex={0} role="region" aria-label="Learned">
      <section>
        <p className="text-xs text-quiet">
          Readings correct what trees take (by band, in leaf and bare, and wood by wood), what the ground, walls and
          each area take, and the noise that comes from outside. Either correction has a line of its own on every tape,
          is never mixed into the physics, and goes with one click. Coverage counts both.
        </p>
        {readings === 0 ? (
          <p className="mt-2">Nothing was read yet: proofs, and the watch's last week, teach.</p>
        ) : (
          <>
            {taughtBy.length > 0 && <Worth what="Levels" lesson={page} />}
            {noise.taughtBy.length > 0 && <Worth what="Noise" lesson={noise} />}
            {outliers.length > 0 && (
              <div className="mt-2 rounded border border-tight p-2" data-outliers>
                <p className="font-semibold">
                  {counted(outliers.length, "measurement")} set aside: too far from what all others predict
                </p>
                <ul>
                  {outliers.slice(0, MOST_ROWS).map(({ linkId, from, errorDb }, i) => (
                    <li key={i}>
                      {link(linkId)}: <span className="figures">{signedFigure(errorDb)} dB</span> from the prediction,{" "}
                      {from === "proof" ? "acceptance test" : "monitoring"}.{" "}
                      <Link className="text-clay underline" to={`/plans/${planId}/links/${linkId}/proof`}>
                        Is it right? Correct it, or measure again
                      </Link>
                    </li>
                  ))}
                </ul>
              </div>
            )}
            <div className="mt-2 flex flex-wrap gap-2">
              <Button
                look={isGain(page) || isGain(noise) ? "primary" : "plain"}
                onClick={() => void keep(learned, `Took over what ${counted(readings, "reading")} taught`)}
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
                    ? `In use, of ${counted(inUse.readings + (inUse.noise?.readings ?? 0), "reading")}.`
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
          <h3 className="font-semibold">What was learned of levels</h3>
          <LearnedTerms caption="Terms of the correction of levels" terms={learned.terms} />
          <h3 className="mt-3 font-semibold">Link by link, those that disagree first</h3>
          <LearnedErrors caption="Error of each level before and after" taughtBy={taughtBy} what={link} />
        </section>
      )}
      {noise.taughtBy.length > 0 && (
        <section>
          <h3 className="font-semibold">What was learned of noise from outside</h3>
          <LearnedTerms caption="Terms of the correction of noise" terms={learned.noise?.terms ?? []} />
          <h3 className="mt-3 font-semibold">Receiver by receiver, those that disagree first</h3>
          <LearnedErrors
            caption="Error of each noise before and after"
            taughtBy={noise.taughtBy}
            what={(linkId, { radioId }) => (
              <>
                {endName(radioId)}, {link(linkId)}
              </>
            )}
          />
        </section>
      )}
    </div>
  );
}

const isGain = ({ before, after }: Pick<LearnedPage, "before" | "after">) => after < before;

/** What a lesson is worth, in words. */
function Worth({ what, lesson }: { what: string; lesson: LearnedPage | LearnedPage["noise"] }) {
  return (
    <p className="mt-2">
      {what}, {counted(lesson.taughtBy.length, "reading")}: predictions stray by{" "}
      <span className="figures">{figure(lesson.before)} dB</span> without and by{" "}
      <span className="figures">{figure(lesson.after)} dB</span> with what the other readings taught, root mean square,
      each held out in its turn.
      {!isGain(lesson) && " Nothing is gained by it yet."}
    </p>
  );
}
