import { radio, radioIn, type ValleyRows } from "./valley";
/** The valley with a second bridge on its channel, and a second sector with three customers beside the first one's. */
export function town(rows: ValleyRows): void {
  const [west] = rows.sites;
  const [bridge, access] = rows.links;
  const [sector, client] = [radioIn(rows, "sector"), radioIn(rows, "farm-radio")];
  rows.sites.push(
    { ...west!, id: "north-west", name: "north-west", latDeg: -0.99, isFeed: false },
    { ...west!, id: "north-east", name: "north-east", latDeg: -0.99, lonDeg: 20.11, isFeed: false },
  );
  rows.radios.push(radio("nw", { siteId: "north-west" }), radio("ne", { siteId: "north-east" }), {
    ...sector,
    id: "sector-2",
    name: "sector-2",
    siteId: "north-west",
    carrierId: "sector-2",
  });
  rows.links.push({ ...bridge!, id: "second", aRadioId: "nw", bRadioId: "ne" });
  for (let i = 0; i < 3; i++) {
    const id = `house-${i}`;
    rows.subscribers.push({ ...rows.subscribers[0]!, id, name: id, latDeg: -0.994 + 0.002 * i, lonDeg: 20.03 });
    rows.radios.push({ ...client, id: `r${i}`, name: `r${i}`, subscriberId: id, carrierId: "sector-2" });
    rows.links.push({ ...access!, id: `l${i}`, aRadioId: "sector-2", bRadioId: `r${i}` });
  }
}

/** The valley with more bridges on one channel than anybody is held against, and houses that take turns on two sectors of it. */
export function crowd(rows: ValleyRows): void {
  const [west] = rows.sites;
  const [bridge, access] = rows.links;
  const [sector, client] = [radioIn(rows, "sector"), radioIn(rows, "farm-radio")];
  for (let i = 0; i < 14; i++) {
    for (const [end, lonDeg] of [
      ["w", 20],
      ["e", 20.11],
    ] as const) {
      const id = `${end}-${i}`;
      rows.sites.push({ ...west!, id, name: id, latDeg: -0.97 + 0.004 * i, lonDeg, isFeed: false });
      rows.radios.push(radio(`r-${id}`, { siteId: id, txPowerDbm: 12 + (i % 5) }));
    }
    rows.links.push({ ...bridge!, id: `bridge-${i}`, aRadioId: `r-w-${i}`, bRadioId: `r-e-${i}` });
  }
  for (const s of [0, 1]) {
    const id = `sector-${s}`;
    rows.radios.push({ ...sector, id, name: id, siteId: `w-${s * 5}`, carrierId: id, frequencyMHz: 5800 });
    for (let i = 0; i < 4; i++) {
      const house = `house-${s}-${i}`;
      // Two to a house: equally loud, so that the first by id is told.
      const place = { latDeg: -0.968 + 0.01 * s + 0.003 * (i >> 1), lonDeg: 20.02 };
      rows.subscribers.push({ ...rows.subscribers[0]!, id: house, name: house, ...place });
      const own = { id: `r-${house}`, name: house, subscriberId: house, carrierId: id, frequencyMHz: 5800 };
      rows.radios.push({ ...client, ...own });
      rows.links.push({ ...access!, id: `l-${house}`, aRadioId: id, bRadioId: `r-${house}` });
    }
  }
}
