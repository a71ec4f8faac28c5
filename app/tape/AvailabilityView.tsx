import {
  availabilityOf,
  fadingPathOf,
  linearOf,
  marginForAvailabilityDb,
  type Bound,
  type LinkAnswer,
} from "#core/link";
import type { LinkEnd, Plan } from "#core/plan";
import { figure, Term } from "../ui";

/** A share of time as people plan with it: enough decimals to tell 99.95 from 99.995. */
const percent = (value: number) => `${figure(value, value > 99 ? 4 : 2)} %`;
const rare = (value: number) => (value < 0.0001 ? "under 0.0001 %" : `${figure(value, 4)} %`);

/** How much of the year the weaker direction holds, what takes the rest, and the margin that the plan's wish needs. */
export function AvailabilityView({ plan, a, b, answer }: { plan: Plan; a: LinkEnd; b: LinkEnd; answer: LinkAnswer }) {
  if (!answer.path) return null;
  const { aToB, bToA } = answer.path;
  const path = fadingPathOf(plan, { a, b }, answer.path, answer.distanceM);
  const weaker = aToB.fadeMarginDb <= bToA.fadeMarginDb ? { tape: aToB, to: b } : { tape: bToA, to: a };
  const stronger = weaker.tape === aToB ? { tape: bToA, to: a } : { tape: aToB, to: b };
  const marginDb = weaker.tape.fadeMarginDb;
  const back = availabilityOf({ ...path, polarization: linearOf(b.radio.polarization) }, stronger.tape.fadeMarginDb);
  const found = availabilityOf(path, marginDb);
  // Rain is not told apart beyond the ends of its method: what stands there is a bound and carries its mark.
  const bounded = (bound: Bound, text: string) =>
    bound === "atMost" ? `≤ ${text}` : bound === "atLeast" ? `≥ ${text}` : text;
  const rain = (text: string) => bounded(found.rainBound, text);
  const needed = marginForAvailabilityDb(path, plan.availabilityPercent);
  return (
    <section className="px-3 py-2" aria-label="Availability">
      <h3 className="mb-1 text-[13px] font-semibold">Availability toward {weaker.to.placeName}</h3>
      {marginDb < 0 ? (
        <p className="text-[13px] text-quiet">None: the level does not hold even in fair weather.</p>
      ) : (
        <table className="w-full text-[13px]">
          <thead>
            <tr className="text-right text-xs text-quiet">
              <th>
                <span className="sr-only">What</span>
              </th>
              <th className="font-normal">year</th>
              <th className="font-normal">
                <Term meaning="The month of the year in which fading is most frequent: what a customer remembers.">
                  worst month
                </Term>
              </th>
            </tr>
          </thead>
          <tbody className="[&_td]:figures [&_td]:text-right [&_td]:text-xs [&_th]:text-left [&_th]:font-normal">
            <tr>
              <th scope="row">Rain takes it for</th>
              <td>{rain(rare(found.rainPercent))}</td>
              <td>{rain(rare(found.worstMonthRainPercent))}</td>
            </tr>
            <tr>
              <th scope="row">
                <Term meaning="Layers of air bend a second ray to the far end, which arrives out of step and cancels the first.">
                  Multipath
                </Term>{" "}
                for
              </th>
              <td>{rare(found.multipathPercent)}</td>
              <td>{rare(found.worstMonthMultipathPercent)}</td>
            </tr>
            <tr className="border-t border-rule font-semibold">
              <th scope="row" className="font-semibold!">
                It holds for
              </th>
              <td>{bounded(found.availabilityBound, percent(found.availabilityPercent))}</td>
              <td>{bounded(found.availabilityBound, percent(found.worstMonthAvailabilityPercent))}</td>
            </tr>
            <tr className="text-quiet">
              <th scope="row">and toward {stronger.to.placeName}</th>
              <td>{bounded(back.availabilityBound, percent(back.availabilityPercent))}</td>
              <td>{bounded(back.availabilityBound, percent(back.worstMonthAvailabilityPercent))}</td>
            </tr>
          </tbody>
        </table>
      )}
      <p className="mt-1 text-xs text-quiet">
        {needed === null
          ? `What ${plan.availabilityPercent} % of the year needs is more than this method can tell: rain is not known below 0.001 %.`
          : `${plan.availabilityPercent} % of the year needs a margin of ${needed.isAtMost ? "at most " : ""}${figure(needed.marginDb)} dB; it has ${figure(marginDb)} dB.`}{" "}
        Rain {figure(path.rainRate001MmPerH, 0)} mm/h{plan.rainRate001MmPerH === null && " by latitude"}, dN1{" "}
        {figure(path.dN1!, 0)} N/km{plan.dN1NPerKm === null && " by latitude"}. ITU-R P.530-17 §2.3.2, §2.3.4, §2.4.1;
        P.841. Rain is known from 0.001 to 1 % of the year.
      </p>
    </section>
  );
}
