import { createEvents, type EventAttributes } from "ics";

/** Something with a day and a time of that place. */
export interface Appointment {
  id: string;
  title: string;
  /** 2026-11-27 and minutes after midnight. */
  day: string;
  startMinute: number;
  minutes: number;
  text: string;
  place: string;
  /** Where it is, degrees; null where nobody knows. */
  at: { latDeg: number; lonDeg: number } | null;
  /** Counts up with each change, so that calendars take the newer one. */
  revision: number;
}

/** Appointments as an iCalendar file (RFC 5545) in local time without a zone: a crew's clock is the mast's. */
export function writeCalendar(name: string, appointments: readonly Appointment[]): string {
  const events = appointments.map((one): EventAttributes => {
    const [year, month, day] = one.day.split("-").map(Number) as [number, number, number];
    return {
      uid: `${one.id}@tejado`,
      sequence: one.revision,
      title: one.title,
      description: one.text,
      location: one.place,
      ...(one.at && { geo: { lat: one.at.latDeg, lon: one.at.lonDeg } }),
      start: [year, month, day, Math.floor(one.startMinute / 60), one.startMinute % 60],
      startInputType: "local",
      startOutputType: "local",
      duration: { hours: Math.floor(one.minutes / 60), minutes: one.minutes % 60 },
      productId: "-//Tejado//Jobs//EN",
      calName: name,
    };
  });
  const { error, value } = createEvents(events);
  if (error) throw error;
  return value!;
}
