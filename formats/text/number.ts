/** Whether a table writes its decimals with a comma, judged by which kind of number is more frequent in it. */
export function usesDecimalComma(cells: Iterable<string>): boolean {
  let commas = 0;
  let points = 0;
  for (const cell of cells) {
    const text = cell.trim();
    if (/^[+\-−]?\d+,\d+$/.test(text)) commas++;
    else if (/^[+\-−]?\d+\.\d+$/.test(text)) points++;
  }
  return commas > points;
}

/** A number as people write it: printed minus, decimal comma, thousands marks. NaN when it is none. */
export function parseNumber(text: string, decimalComma: boolean): number {
  let plain = text
    .trim()
    .replace(/−/g, "-")
    .replace(/[\s\u00a0']/g, "");
  if (plain === "") return NaN;
  const comma = plain.lastIndexOf(",");
  const point = plain.lastIndexOf(".");
  if (comma >= 0 && point >= 0) {
    // Where both stand, the last one is the decimal mark.
    plain = comma > point ? plain.replace(/\./g, "").replace(",", ".") : plain.replace(/,/g, "");
  } else if (comma >= 0) {
    const thousands = !decimalComma && /^[+-]?\d{1,3}(,\d{3})+$/.test(plain);
    plain = thousands ? plain.replace(/,/g, "") : plain.replace(",", ".");
  }
  return /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : NaN;
}
