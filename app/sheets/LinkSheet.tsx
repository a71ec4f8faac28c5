import { linksOf } from "#core/findings";
import { oddsOf, spreadOf } from "#core/learn";
import { learnedCaseOf, spareDb, wantedMarginDb, wantedText, type LinkAnswer, type Tape } from "#core/link";
import { linkEnds, setPatch, type Link as LinkRow } from "#core/plan";
import { paperCriteria, type Criterion } from "#core/proof";
import { Tabs } from "radix-ui";
import { Link } from "react-router";
import { AvailabilityView } from "../tape/AvailabilityView";
import { ClearanceView } from "../tape/ClearanceView";
import { TapeView } from "../tape/TapeView";
import { oddsText } from "../ui/WatchMark";
import { Button, buttonClass, figure, ProofMark, STATE_LINES, StateStroke, Term, useFormats } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { ChannelEditor } from "./ChannelEditor";
import { EndEditor } from "./EndEditor";
import { FindingCard } from "../lists/FindingsList";
import { StageEditor } from "./StageEditor";
import { TreesEditor } from "./TreesEditor";
import { MustCarryEditor } from "./MustCarryEditor";
import { RemoveButton } from "./RemoveButton";

function TurnDown({ tape, link, isA }: { tape: Tape; link: LinkRow; isA: boolean }) {
  const { world, draft } = useDesk();
  const { a, b } = linkEnds(world, link);
  const end = isA ? a : b;
  if (tape.overCapDb <= 0.05) return null;
  const step = end.model.powerStepDb;
  const txPowerDbm = Math.floor((end.radio.txPowerDbm - tape.overCapDb) / step + 1e-9) * step;
  const down = end.radio.txPowerDbm - txPowerDbm;
  if (txPowerDbm < end.model.powerMinDbm) {
    return (
      <p className="text-xs text-blocked">
        Even at its least power, {figure(end.model.powerMinDbm)} dBm, {end.radio.name} passes the cap with this antenna.
      </p>
    );
  }
  return (
    <Button onClick={() => draft.put([setPatch("radios", end.radio.id, { txPowerDbm })])}>
      Turn {end.placeName} down by {figure(down, 0)} dB
    </Button>
  );
}

/** The first criterion that a link does not meet, as its headline. */
const PAPER_WORDS: Record<Criterion["key"], string> = {
  rules: "The rules do not allow it as it is",
  match: "The ends do not match",
  overload: "A receiver is overloaded",
  margin: "It does not hold as it is",
  rate: "It holds, but carries less than it must",
  floor: "It holds, but its signal is under the acceptance floor",
  measurement: "Its measurement does not pass",
};

function Headline({ link, answer }: { link: LinkRow; answer: LinkAnswer }) {
  const { world } = useDesk();
  const formats = useFormats();
  const { a, b } = linkEnds(world, link);
  if (!answer.path) {
    const text =
      answer.problem?.kind === "notFinite"
        ? `The ${answer.problem.figure} of this path comes out as no number, so nothing is shown. Check heights, kit and ground at both ends.`
        : answer.problem?.kind === "hole"
          ? `The terrain has a hole: ${answer.problem.count} samples of this path have no ground, the first at ${formats.distance(answer.problem.firstKm * 1000)}. Unknown ground is not taken for sea level; import terrain that covers the path.`
          : `Both ends stand ${figure(answer.distanceM)} m apart: at one place there is no path. Move or choose another end.`;
    return (
      <p role="alert" className="mt-1 text-sm">
        {text}
      </p>
    );
  }
  const { aToB, bToA, clearance } = answer.path;
  const ends = linkEnds(world, link);
  const failing = paperCriteria(world.plan, ends, answer).filter(({ passed }) => !passed);
  const { demand } = ends.b;
  const margin = Math.min(aToB.marginLeftDb, bToA.marginLeftDb);
  return (
    <div className="mt-1 text-[13px]">
      <p className="flex items-center gap-2">
        <StateStroke state={answer.state} />
        <span>
          {STATE_LINES[answer.state].word}
          {answer.path.treesAlone ? " by trees" : ""}, {figure(clearance.worstShare, 2)} of the{" "}
          <Term meaning="The first Fresnel zone: the ellipsoid around the ray that carries most of the energy. 60 % of it should be free.">
            zone
          </Term>
          ; {formats.distance(answer.distanceM)}
        </span>
      </p>
      <p className="mt-0.5">
        <strong>{failing.length === 0 ? "It works on paper" : PAPER_WORDS[failing[0]!.key]}:</strong>{" "}
        <span className="figures">{figure(aToB.rateMbps, 0)}</span> /{" "}
        <span className="figures">{figure(bToA.rateMbps, 0)}</span> Mbit/s
        {demand && (
          <>
            {" "}
            of <span className="figures">{figure(demand.downMbps, 0)}</span> /{" "}
            <span className="figures">{figure(demand.upMbps, 0)}</span>{" "}
            {demand && "from" in demand ? "to be carried" : "asked for"}
          </>
        )}
        , margin <span className="figures">{figure(margin)} dB</span> of{" "}
        <span className="figures">{figure(wantedMarginDb(world.plan, a.radio.frequencyMHz))}</span> wanted;{" "}
        <Term meaning="How likely it does what is asked of it, with what predictions stray by: terrain, pointing, trees, and what readings taught where that is in use.">
          {link.kind === "access" ? "served" : "holds"}
        </Term>
        :{" "}
        {oddsText(
          oddsOf(
            spareDb(world.plan, { a, b }, answer)!,
            spreadOf(learnedCaseOf(world.plan, { a, b }, answer.path), world.plan.learned),
          ),
        )}
        .
      </p>
      {aToB.question.path.frequencyMHz !== bToA.question.path.frequencyMHz && (
        <p className="mt-0.5">
          Two frequencies: <span className="figures">{aToB.question.path.frequencyMHz}</span> MHz toward{" "}
          {ends.b.placeName}, <span className="figures">{bToA.question.path.frequencyMHz}</span> MHz back.
        </p>
      )}
      {failing.map(({ key, text }) => (
        <p key={key} className="mt-0.5 font-medium text-blocked" data-criterion={key}>
          ✕ {text}
        </p>
      ))}
      {clearance.state !== "clear" && (
        <p className="mt-0.5 text-quiet">
          Clear enough ({wantedText(clearance, world.plan)}) from {formats.height(clearance.leastHeightAM)} at the first
          end, or {formats.height(clearance.leastHeightBM)} at the second.
        </p>
      )}
    </div>
  );
}

/** Everything about the selected link: the answer, what is wrong with it, both ends to change, and the tapes. */
export function LinkSheet({ link }: { link: LinkRow }) {
  const { data, kept, world, answer, profiles, findings: all, stateOf } = useDesk();
  const formats = useFormats();
  const { a, b } = linkEnds(world, link);
  const planId = data.world.plan.id;
  // What is wrong with this link alone comes before what it shares with others, however many those are.
  const findings = all
    .filter((finding) => linksOf(finding).includes(link.id))
    .sort((x, y) => Number(linksOf(x).length > 1) - Number(linksOf(y).length > 1));
  const isKept = kept.links.has(link.id);
  const profile = profiles.get([a.place, b.place]);
  return (
    <div className="divide-y divide-rule">
      <section className="px-3 py-2">
        <h2 className="flex items-baseline justify-between gap-2 font-semibold">
          <span>
            {a.placeName} – {b.placeName}
          </span>
          <ProofMark state={stateOf(link.id)} />
        </h2>
        {answer ? (
          <Headline link={link} answer={answer} />
        ) : profiles.failed ? (
          <p role="alert">The profile could not be read: {profiles.failed}</p>
        ) : (
          <p className="text-sm text-quiet">Reading the profile…</p>
        )}
        {(answer?.path || isKept) && (
          <div className="mt-1.5 flex flex-wrap gap-1.5">
            {answer?.path && (
              <>
                <TurnDown tape={answer.path.aToB} link={link} isA />
                <TurnDown tape={answer.path.bToA} link={link} isA={false} />
              </>
            )}
            {isKept && (
              <>
                <Link className={buttonClass()} to={`/plans/${planId}/links/${link.id}/sheet`}>
                  Crew sheet
                </Link>
                <Link className={buttonClass()} to={`/plans/${planId}/links/${link.id}/proof`}>
                  Write a reading
                </Link>
                <RemoveButton
                  thing={{ kind: "links", id: link.id }}
                  name={`the link ${a.placeName} – ${b.placeName}`}
                />
              </>
            )}
          </div>
        )}
      </section>
      {findings.length > 0 && (
        <section aria-label="Findings of this link">
          {findings.map((finding) => (
            <FindingCard key={finding.id} finding={finding} open withPlace={false} />
          ))}
        </section>
      )}
      {answer?.path && (
        <section className="px-3 py-2" aria-label="Tape">
          <Tabs.Root defaultValue="aToB">
            <Tabs.List aria-label="Direction" className="mb-1 flex gap-3 text-[13px]">
              <Tabs.Trigger
                value="aToB"
                className="border-b-2 border-transparent pb-0.5 data-[state=active]:border-clay data-[state=active]:font-semibold"
              >
                To {b.placeName}
              </Tabs.Trigger>
              <Tabs.Trigger
                value="bToA"
                className="border-b-2 border-transparent pb-0.5 data-[state=active]:border-clay data-[state=active]:font-semibold"
              >
                To {a.placeName}
              </Tabs.Trigger>
            </Tabs.List>
            <Tabs.Content value="aToB">
              <TapeView tape={answer.path.aToB} caption={`Link budget toward ${b.placeName}`} />
            </Tabs.Content>
            <Tabs.Content value="bToA">
              <TapeView tape={answer.path.bToA} caption={`Link budget toward ${a.placeName}`} />
            </Tabs.Content>
          </Tabs.Root>
          <p className="mt-1 text-xs text-quiet">
            {formats.place(a.place)} → {formats.place(b.place)}
          </p>
        </section>
      )}
      {answer?.path && profile && (
        <ClearanceView
          plan={world.plan}
          profile={profile}
          path={answer.path}
          frequencyGHz={a.radio.frequencyMHz / 1000}
        />
      )}
      {answer && <AvailabilityView plan={world.plan} a={a} b={b} answer={answer} />}
      <section className="px-3 py-2" aria-label="Channel and ends">
        <div className="grid grid-cols-2 gap-2">
          <ChannelEditor radioId={a.radio.id} link={link} />
          <Link
            to={`/plans/${planId}/paths?sel=link:${encodeURIComponent(link.id)}&panel=bands`}
            className="col-span-2 text-xs text-clay underline"
          >
            Other bands and their radios, side by side
          </Link>
          <MustCarryEditor {...{ link, a, b }} />
          <TreesEditor link={link} answer={answer} />
          <StageEditor links={[link]} />
        </div>
        <EndEditor
          key={a.radio.id}
          end={a}
          {...(answer?.path
            ? { pointing: answer.path.aPointing, leastHeightM: answer.path.clearance.leastHeightAM }
            : {})}
        />
        <EndEditor
          key={b.radio.id}
          end={b}
          {...(answer?.path
            ? { pointing: answer.path.bPointing, leastHeightM: answer.path.clearance.leastHeightBM }
            : {})}
        />
      </section>
    </div>
  );
}
