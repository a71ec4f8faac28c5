/** One decimal, and the minus sign that is printed rather than the hyphen that is typed. */
export function withMinus(value: number): string {
  return value.toFixed(1).replace("-", "−");
}
