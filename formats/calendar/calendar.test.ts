import { expect, test } from "@jest/globals";
import { writeCalendar, type Appointment } from "#formats/calendar";

const job: Appointment = {
  ...{ id: "v1", title: "Build: Harbour – Ridge", day: "2026-12-01", startMinute: 570, minutes: 135 },
  ...{ text: "Two; crews,\nboth ends", place: "Ridge hut", at: { latDeg: -37.6, lonDeg: -30.2 }, revision: 12 },
};
/** The file's lines, folded ones joined (RFC 5545, 3.1). */
const linesOf = (text: string) => text.replace(/\r\n[ \t]/g, "").split("\r\n");

test("a job stands in the calendar at the mast's own clock, with its text escaped and its change counted", () => {
  const lines = linesOf(writeCalendar("Isla Orvena", [job, { ...job, id: "v2", at: null, minutes: 30 }]));
  expect(lines).toEqual(
    expect.arrayContaining([
      ...["BEGIN:VCALENDAR", "X-WR-CALNAME:Isla Orvena", "UID:v1@tejado", "SEQUENCE:12", "DTSTART:20261201T093000"],
      ...["DURATION:PT2H15M", "DESCRIPTION:Two\\; crews\\,\\nboth ends", "LOCATION:Ridge hut", "GEO:-37.6;-30.2"],
      ...["UID:v2@tejado", "DURATION:PT30M"],
    ]),
  );
  expect(lines.filter((line) => line === "BEGIN:VEVENT")).toHaveLength(2);
  expect(lines.filter((line) => line.startsWith("GEO"))).toHaveLength(1);
});

test("a plan without dated jobs is an empty calendar", () => {
  expect(linesOf(writeCalendar("Nothing", []))).toContain("END:VCALENDAR");
});
