import type { World } from "#core/plan";
import {
  configSheet,
  SETTING_WORDS,
  settingText,
  settingWord,
  sheetContext,
  type ConfigSheet,
  type DeviceSettings,
} from "#core/staging";

/** Names the format and its version in the file itself. */
const FORMAT = "tejado-sheets";
const VERSION = 2;

const sheetsOf = (world: World): ConfigSheet[] => {
  const context = sheetContext(world);
  return [...world.radios.keys()].map((id) => configSheet(world, id, context));
};

/** Every device's settings as JSON; of secrets only the names under which they are kept. */
export function writeSheetsJson(world: World): string {
  const sheets = sheetsOf(world).map(({ settings, ...sheet }) => ({ ...sheet, settings }));
  return `${JSON.stringify({ format: FORMAT, version: VERSION, plan: world.plan.name, sheets }, null, 2)}\n`;
}

/** Every device's settings as text, one block for each. */
export function writeSheetsText(world: World): string {
  const sheets = sheetsOf(world);
  const words = (Object.keys(SETTING_WORDS) as (keyof DeviceSettings)[]).flatMap((setting) =>
    sheets.map((sheet) => settingWord(setting, sheet).length),
  );
  const width = Math.max(0, ...words);
  return sheets
    .map((sheet) => {
      const { settings, model, placeName, firmware, keyRef, passwordRef } = sheet;
      return [
        `${settings.name} (${model}, ${placeName})`,
        ...(Object.keys(SETTING_WORDS) as (keyof DeviceSettings)[]).map(
          (setting) => `  ${settingWord(setting, sheet).padEnd(width)}  ${settingText(settings[setting])}`,
        ),
        `  ${"Firmware".padEnd(width)}  ${firmware || "any"}`,
        `  ${"Key".padEnd(width)}  kept as ${keyRef}`,
        `  ${"Password".padEnd(width)}  kept as ${passwordRef}`,
        "",
      ].join("\n");
    })
    .join("\n");
}
