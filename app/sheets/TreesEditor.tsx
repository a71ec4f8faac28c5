import { BARE_SHARE, treesLossDb, type LinkAnswer } from "#core/link";
import { setPatch, type Link } from "#core/plan";
import { figure, NumberField } from "../ui";
import { useDesk } from "../desk/DeskContext";

/** How a link treats the trees on its way: measured in its ray, set by hand, or as good as rock. */
export function TreesEditor({ link, answer }: { link: Link; answer: LinkAnswer | null }) {
  const { world, draft } = useDesk();
  const put = (foliageDepthM: number | null) => draft.put([setPatch("links", link.id, { foliageDepthM })]);
  const way = link.foliageDepthM === null ? "measured" : link.foliageDepthM === 0 ? "solid" : "byHand";
  const trees = answer?.path?.trees;
  const frequencyGHz = (world.radios.get(link.aRadioId)?.frequencyMHz ?? 5800) / 1000;
  const other = world.plan.season === "bare" ? "inLeaf" : "bare";
  return (
    <>
      <div>
        <label htmlFor="trees" className="mb-0.5 block text-xs text-quiet">
          Trees on the way
        </label>
        <select
          id="trees"
          value={way}
          onChange={({ target: { value } }) =>
            put(value === "measured" ? null : value === "solid" ? 0 : Math.max(5, Math.round(trees?.depthM ?? 20)))
          }
          className="w-full rounded border border-rule bg-panel px-2 py-1 text-sm"
        >
          <option value="measured">measured in the ray</option>
          <option value="byHand">by hand, m</option>
          <option value="solid">solid, as rock</option>
        </select>
      </div>
      {way === "byHand" && (
        <NumberField
          label="Through trees"
          unit="m"
          value={link.foliageDepthM!}
          step={5}
          min={1}
          max={400}
          decimals={0}
          onChange={put}
        />
      )}
      {trees && trees.depthM > 0 && (
        <p className="col-span-2 text-xs text-quiet">
          {figure(trees.depthM, 0)} m of trees in the ray
          {trees.way === "over"
            ? "; bending over their tops loses less, so that is counted."
            : `: ${figure(trees.lossDb)} dB ${world.plan.season === "bare" ? "bare" : "in leaf"}, ${figure(treesLossDb(frequencyGHz, trees.depthM, trees.leafyShare, other))} dB ${other === "bare" ? `bare (${BARE_SHARE} of what sheds its leaves)` : "in leaf"}.`}
        </p>
      )}
    </>
  );
}
