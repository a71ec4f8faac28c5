/** A ridge between two sites, written as a small ESRI ASCII grid at 1 arc-second; the north-east corner is a hole. */
export function ridgeGrid(): string {
  const size = 200;
  const rows: string[] = [];
  for (let row = 0; row < size; row++) {
    const cells: number[] = [];
    for (let column = 0; column < size; column++) {
      const hole = row < 20 && column > 180;
      cells.push(hole ? -9999 : 20 + Math.round(60 * Math.exp(-(((column - 100) / 8) ** 2))));
    }
    rows.push(cells.join(" "));
  }
  return [
    "ncols 200",
    "nrows 200",
    "xllcorner 11",
    "yllcorner -3",
    "cellsize 0.000277777778",
    "NODATA_value -9999",
    ...rows,
  ].join("\r\n");
}
