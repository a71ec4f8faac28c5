/** Prints a figure with its bound, and lets the bench end with an error where it is missed. */
export function print(name: string, value: number, unit: string, bound: number, atLeast = false): void {
  const isWithin = atLeast ? value >= bound : value <= bound;
  console.log(
    `${name.padEnd(62)} ${value.toFixed(value < 10 ? 2 : 0).padStart(8)} ${unit.padEnd(3)} bound ${bound}: ${isWithin ? "within" : "MISSED"}`,
  );
  if (!isWithin) process.exitCode = 1;
}
