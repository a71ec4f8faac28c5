import { MOST_STAGES, setPatch, type Link } from "#core/plan";
import { SelectField } from "../ui";
import { useDesk } from "../desk/DeskContext";

const STAGES = Array.from({ length: MOST_STAGES }, (_, i) => i + 1);

/** In which stage of growth some links are built: crews get jobs for the first one, the later ones wait. */
export function StageEditor({ links }: { links: readonly Link[] }) {
  const { draft } = useDesk();
  const [first] = links;
  if (!first) return null;
  const isMixed = links.some(({ growthStage }) => growthStage !== first.growthStage);
  return (
    <SelectField
      label="Stage of growth"
      title="Jobs are proposed for the first stage; those of later stages wait until you ask for them on the board of jobs."
      value={isMixed ? "" : String(first.growthStage)}
      onChange={({ target }) =>
        draft.put(links.map(({ id }) => setPatch("links", id, { growthStage: Number(target.value) })))
      }
    >
      {isMixed && <option value="">several</option>}
      {STAGES.map((stage) => (
        <option key={stage} value={stage}>
          {stage === 1 ? "1, now" : stage}
        </option>
      ))}
    </SelectField>
  );
}
