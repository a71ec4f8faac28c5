import type { World } from "#core/plan";
import {
  configSheet,
  SETTING_WORDS,
  settingText,
  sheetContext,
  type ConfigSheet,
  type DeviceSettings,
} from "#core/staging";

/** Names the format and its version in the file itself. */
const FORMAT = "tejado-sheets";
const VERSION = 1;

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
  const width = Math.max(...Object.values(SETTING_WORDS).map(({ length }) => length));
  return sheetsOf(world)
    .map(({ settings, model, placeName, firmware, keyRef, passwordRef }) =>
      [
        `${settings.name} (${model}, ${placeName})`,
        ...(Object.keys(SETTING_WORDS) as (keyof DeviceSettings)[]).map(
          (setting) => `  ${SETTING_WORDS[setting].padEnd(width)}  ${settingText(settings[setting])}`,
        ),
        `  ${"Firmware".padEnd(width)}  ${firmware || "any"}`,
        `  ${"Key".padEnd(width)}  kept as ${keyRef}`,
        `  ${"Password".padEnd(width)}  kept as ${passwordRef}`,
        "",
      ].join("\n"),
    )
    .join("\n");
}
