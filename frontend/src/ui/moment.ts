import { useEffect, useState } from "react";

const MINUTE = 60_000;

const two = (value: number) => String(value).padStart(2, "0");

/** A moment of the site as the plan writes it: a day and a time, of no time zone. */
export const written = (moment: Date) =>
  `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}T${two(moment.getHours())}:${two(moment.getMinutes())}`;

/** The site's own clock where it is not this browser's: a stand-in may run faster. */
let clock: { start: number; since: number; speed: number } | null = null;

/** Take over a clock of the site that runs faster. */
export function setClock(now: string, speed: number) {
  clock = { start: new Date(now).getTime(), since: performance.now(), speed };
}

export const rightNow = () =>
  written(
    clock ? new Date(clock.start + (performance.now() - clock.since) * clock.speed) : new Date(),
  );

/** Minutes from midnight before a day until a moment. */
const minutesFrom = (day: string, moment: string) =>
  (new Date(`${moment}Z`).getTime() - new Date(`${day}T00:00Z`).getTime()) / MINUTE;

/** Now, in minutes from midnight before a day, as it goes on; null without a day. */
export function useNow(day: string): number | null {
  const [now, setNow] = useState(rightNow);
  useEffect(() => {
    const timer = setInterval(() => setNow(rightNow()), MINUTE / 2 / (clock?.speed ?? 1));
    return () => clearInterval(timer);
  }, []);
  return day ? minutesFrom(day, now) : null;
}
