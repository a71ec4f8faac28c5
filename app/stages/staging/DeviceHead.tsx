import type { ConfigSheet } from "#core/staging";
import type { ReactNode } from "react";

/** Which device a view is about; at the right what can be done with it. */
export function DeviceHead({ sheet, children }: { sheet: ConfigSheet; children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-start gap-3">
      <div className="min-w-64 flex-1">
        <h2 className="font-semibold">{sheet.settings.name}</h2>
        <p className="text-quiet">
          {sheet.model} for {sheet.placeName}: {sheet.settings.mode}
        </p>
      </div>
      {children}
    </div>
  );
}
