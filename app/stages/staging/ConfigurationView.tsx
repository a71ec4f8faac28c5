import { SETTING_WORDS, settingText, settingWord, sheetDifferences, type DeviceSettings } from "#core/staging";
import { useEffect, useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, buttonClass, Table } from "../../ui";
import { useStagingHere } from "./StagingContext";
import { DeviceHead } from "./DeviceHead";
import { NoDevice } from "./NoDevice";
import { useChosenDevice } from "./useChosenDevice";

/** How long a secret stands on the screen, ms. */
const SHOWN_MS = 30_000;

/** What one device is to be set to, beside what it reported last; its secrets on demand. */
export function ConfigurationView() {
  const { data } = useDesk();
  const { sheet } = useChosenDevice();
  const { notes, act } = useStagingHere();
  if (!sheet || !notes) return <NoDevice waits={notes === null} />;
  const note = notes.get(sheet.radioId);
  const found = (note?.found ?? null) as Partial<DeviceSettings> | null;
  const differs = new Set(found ? sheetDifferences(sheet.settings, found).map(({ setting }) => setting) : []);
  const file = (name: string) => `/plans/${data.world.plan.id}/kit/${name}`;
  const { radioId } = sheet;
  const show = async (of: "device" | "network") => (await act({ intent: "secret", radioId, of }))?.secret ?? null;
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]" tabIndex={0} role="region" aria-label="Configuration">
      <DeviceHead sheet={sheet}>
        <span className="text-quiet">All sheets:</span>
        <a className={buttonClass()} href={file("sheets.json")} download>
          JSON
        </a>
        <a className={buttonClass()} href={file("sheets.txt")} download>
          Text
        </a>
        <a className={buttonClass()} href={file("sheets.pdf")} download>
          PDF
        </a>
      </DeviceHead>
      <Table
        caption="Settings as planned and as reported"
        columns={[
          { name: "Setting" },
          { name: "Planned" },
          { name: note?.practiceRun ? "Reported by its stand-in" : "Reported last" },
        ]}
      >
        {(Object.keys(SETTING_WORDS) as (keyof DeviceSettings)[]).map((setting) => (
          <tr key={setting} data-setting={setting}>
            <td className="text-quiet">{settingWord(setting, sheet)}</td>
            <td className="figures">{settingText(sheet.settings[setting])}</td>
            <td className={`figures ${differs.has(setting) ? "font-semibold text-blocked" : ""}`}>
              {found ? settingText(found[setting] ?? null) : "–"}
              {differs.has(setting) && <span className="font-sans"> · not as planned</span>}
            </td>
          </tr>
        ))}
        <tr>
          <td className="text-quiet">Firmware</td>
          <td className="figures">{sheet.firmware || "any; it keeps the channel"}</td>
          <td
            className={`figures ${isBehind(sheet.firmware, note?.foundFirmware) ? "font-semibold text-blocked" : ""}`}
          >
            {note?.foundFirmware || "–"}
          </td>
        </tr>
      </Table>
      <h3 className="mt-3 font-semibold">Secrets</h3>
      <p className="text-xs text-quiet">
        Made up by Tejado, kept sealed, on no sheet, in no export and in no log. They are shown for half a minute.
      </p>
      <Secret key={`device ${radioId}`} name="Password of this device" show={() => show("device")} />
      <Secret key={`network ${radioId}`} name={`Key of ${sheet.settings.network}`} show={() => show("network")} />
    </div>
  );
}

const isBehind = (wanted: string, found: string | undefined) => wanted !== "" && !!found && found !== wanted;

function Secret({ name, show }: { name: string; show: () => Promise<string | null> }) {
  const [shown, setShown] = useState<string | null>(null);
  useEffect(() => {
    if (shown === null) return;
    const timer = setTimeout(() => setShown(null), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [shown]);
  return (
    <p className="mt-1 flex items-center gap-3">
      <span className="w-64">{name}</span>
      {shown === null ? (
        <Button onClick={() => void show().then(setShown)}>Show</Button>
      ) : (
        <>
          <code className="figures rounded border border-rule px-1.5 py-0.5 select-all">{shown}</code>
          <Button onClick={() => setShown(null)}>Hide</Button>
        </>
      )}
    </p>
  );
}
