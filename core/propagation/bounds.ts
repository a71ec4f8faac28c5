/** Throws a RangeError naming the argument, its value and its bounds when `value` is not a finite number within [min, max]. */
export function requireWithin(name: string, value: number, min: number, max: number): void {
  if (!(value >= min && value <= max)) {
    throw new RangeError(`${name} is ${value}; it must lie between ${min} and ${max}`);
  }
}
