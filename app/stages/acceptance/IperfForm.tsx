import { useState } from "react";
import { SelectField } from "../../ui";
import { readIperfFiles, type IperfFound } from "../../shared/iperfFiles";

/** Throughput out of the files that iperf3 writes, turned by the end at which the test was begun. */
export function IperfForm({
  names,
  onFound,
}: {
  names: readonly [a: string, b: string];
  onFound: (found: IperfFound) => void;
}) {
  const [begunAt, setBegunAt] = useState<"a" | "b">("b");
  const [found, setFound] = useState<IperfFound | null>(null);
  const read = async (files: FileList | null) => {
    if (!files || files.length === 0) return;
    const next = await readIperfFiles(files, begunAt);
    setFound(next);
    onFound(next);
  };
  return (
    <div className="mt-2 grid grid-cols-2 items-end gap-3 text-sm">
      <SelectField
        label="iperf3 was begun at"
        value={begunAt}
        onChange={({ target }) => setBegunAt(target.value === "a" ? "a" : "b")}
      >
        <option value="a">{names[0]}</option>
        <option value="b">{names[1]}</option>
      </SelectField>
      <label className="text-xs text-quiet">
        Its results (JSON)
        <input
          type="file"
          multiple
          accept=".json,application/json"
          className="mt-1 block w-full text-xs"
          onChange={({ target }) => void read(target.files)}
        />
      </label>
      {found && (
        <div className="col-span-2">
          {found.said.map((line) => (
            <p key={line}>{line}</p>
          ))}
          {found.problem && (
            <p role="alert" className="font-medium text-blocked">
              {found.problem}
            </p>
          )}
        </div>
      )}
    </div>
  );
}
