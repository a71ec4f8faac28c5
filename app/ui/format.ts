import { formatPlace, type Place } from "#core/geodesy";
import { figure } from "#core/words";
import type { Preferences } from "../shared/preferences";

const FEET_PER_M = 1 / 0.3048;
const MILES_PER_KM = 1 / 1.609344;

export interface Formats {
  /** Short lengths: heights, clearances. */
  height(metres: number, decimals?: number): string;
  /** Path lengths. */
  distance(metres: number): string;
  /** A distance known no better than to its first figures. */
  roughDistance(metres: number): string;
  place(place: Place): string;
}

export function formatsFor({ units, coordinates }: Pick<Preferences, "units" | "coordinates">): Formats {
  const imperial = units === "imperial";
  return {
    height: (metres, decimals = 1) =>
      imperial ? `${figure(metres * FEET_PER_M, 0)} ft` : `${figure(metres, decimals)} m`,
    distance: (metres) =>
      imperial
        ? `${figure((metres / 1000) * MILES_PER_KM, 2)} mi`
        : metres < 1000
          ? `${figure(metres, 0)} m`
          : `${figure(metres / 1000, 2)} km`,
    roughDistance: (metres) => {
      const far = (metres / 1000) * (imperial ? MILES_PER_KM : 1);
      return `${figure(far, far >= 10 ? 0 : 1)} ${imperial ? "mi" : "km"}`;
    },
    place: (place) => formatPlace(place, coordinates),
  };
}

export function euros(value: number): string {
  const whole = Math.round(value);
  return `${whole < 0 ? "−" : ""}€${Math.abs(whole).toLocaleString("en-GB")}`;
}

/** A figure whose size counts more than its digits, to three of them: "842", "12.4 k", "3.21 M". */
export const roughly = (value: number): string =>
  ROUGH.format(value)
    .replace(/([A-Z])$/, " $1")
    .replace("K", "k");
const ROUGH = new Intl.NumberFormat("en-US", { notation: "compact", maximumSignificantDigits: 3 });

/** A distance in free sight: beyond any horizon its figure says nothing any more. */
export function freeSight(km: number): string {
  return km > FARTHEST_TOLD_KM ? `over ${FARTHEST_TOLD_KM} km` : `${figure(km, 0)} km`;
}
const FARTHEST_TOLD_KM = 100;
