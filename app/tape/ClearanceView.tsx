import { checkClearance, isMostElsewhere, obstructionsOf, SUB_REFRACTIVE_K, type PathAnswer } from "#core/link";
import type { Plan } from "#core/plan";
import type { Profile } from "#core/terrain";
import { figure, Term, useFormats } from "../ui";

const SCHOOLS: Record<Plan["clearanceSchool"], { name: string; meaning: string }> = {
  sixtyPercent: {
    name: "60 % at the plan's k",
    meaning:
      "60 % of the first Fresnel zone must be free at the plan's k. Simple, and what most networks below 10 km go by.",
  },
  twoCondition: {
    name: "two conditions",
    meaning:
      "The whole first zone must be free at median k, and in the worst weather (k exceeded for 99.9 % of the worst month, by path length) the line itself over a single edge, 30 % over an obstruction that is extended along the path, or 60 % on long tropical paths. ITU-R P.530-17 §2.2.2.",
  },
};

/** Every condition that the plan's school puts to a path, and the sub-refractive case beside them. */
export function ClearanceView({
  plan,
  profile,
  path,
  frequencyGHz,
}: {
  plan: Plan;
  profile: Profile;
  path: PathAnswer;
  frequencyGHz: number;
}) {
  const formats = useFormats();
  const { checks } = path.clearance;
  const ray = {
    profile,
    heightsM: obstructionsOf(profile, path),
    aAmslM: path.aAmslM,
    bAmslM: path.bAmslM,
    frequencyGHz,
  };
  const low = checkClearance(ray, { kFactor: SUB_REFRACTIVE_K, wantedShare: 0 });
  const school = SCHOOLS[plan.clearanceSchool];
  return (
    <section className="px-3 py-2" aria-label="Clearance">
      <h3 className="mb-1 text-[13px] font-semibold">
        Clearance, school: <Term meaning={school.meaning}>{school.name}</Term>
      </h3>
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-right text-xs text-quiet">
            <th className="text-left font-normal">Asked for</th>
            <th className="font-normal">Zone free</th>
            <th className="font-normal">at</th>
            <th className="font-normal">Short</th>
          </tr>
        </thead>
        <tbody className="[&_td]:figures [&_td]:text-right [&_td]:text-xs [&_th]:text-left [&_th]:font-normal">
          {checks.map((check) => (
            <tr key={check.kFactor}>
              <th scope="row">
                {check.wantedShare === 0 ? "the line" : `${Math.round(check.wantedShare * 100)} %`} at k ={" "}
                {figure(check.kFactor, 2)}
              </th>
              <td>{figure(check.worstShare, 2)}</td>
              <td>{formats.distance(check.worstKm * 1000)}</td>
              <td className={check.isMet ? "" : "font-semibold"}>
                {check.isMet ? "met" : formats.height(check.worstIntrusionM)}
                {isMostElsewhere(check) && (
                  <div className="font-normal">
                    most {formats.height(check.intrusionM)} at {formats.distance(check.deepestKm * 1000)}
                  </div>
                )}
              </td>
            </tr>
          ))}
          <tr className="border-t border-rule text-quiet">
            <th scope="row">
              <Term meaning="In rare weather the ray bends upward and the earth bulges more. The path should keep its line then, or it fades.">
                sub-refraction, k = 2/3
              </Term>
            </th>
            <td>{figure(low.worstShare, 2)}</td>
            <td>{formats.distance(low.worstKm * 1000)}</td>
            <td>{low.isMet ? "line free" : `line cut by ${formats.height(low.intrusionM)}`}</td>
          </tr>
        </tbody>
      </table>
    </section>
  );
}
