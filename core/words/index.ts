/** A number with a real minus sign and a fixed number of decimals; never "−0". */
export function figure(value: number, decimals = 1): string {
  const text = value.toFixed(decimals);
  return Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−");
}

/** A figure as it was set, to a tenth at most, with no decimals that say nothing: "27", "−5", "13.5". */
export function shortFigure(value: number): string {
  return figure(value).replace(/\.0$/, "");
}

/** A number with a fixed number of decimals and its sign always said; zero has none. */
export function signedFigure(value: number, decimals = 1): string {
  const text = figure(value, decimals);
  return text.startsWith("−") || Number(text) === 0 ? text : `+${text}`;
}

/** A figure as people type it or copy it, with the sign and the point that `Number` reads. */
export function plainFigure(text: string): string {
  return text.trim().replace("−", "-").replace(",", ".");
}

/** A throughput, in Mbit/s without its unit: a decimal where one matters. */
export const mbps = (value: number): string => figure(value, value < 10 ? 1 : 0);

/** Months as they are called, January first. */
export const MONTHS = [
  ...["January", "February", "March", "April", "May", "June"],
  ...["July", "August", "September", "October", "November", "December"],
] as const;

/** What a change costs or spares, to follow other figures: "; +€89". Empty where it costs nothing. */
export function costChangeText(costEur: number): string {
  const whole = Math.round(Math.abs(costEur));
  return whole === 0 ? "" : `; ${costEur > 0 ? "+" : "−"}€${whole}`;
}

/** So many of something: "1 radio", "3 radios"; `many` where an s does not make it. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** "1 link, 2 radios and 1 reading". */
export function listed(parts: readonly string[]): string {
  return parts.length < 2 ? parts.join("") : `${parts.slice(0, -1).join(", ")} and ${parts.at(-1)}`;
}

/** The same text in one piece: one that was put together keeps all its parts in memory until somebody reads it. */
export function inOnePiece(text: string): string {
  void text.charCodeAt(0);
  return text;
}
