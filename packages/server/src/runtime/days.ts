/** A time so many days after another, UTC ISO. */
export const daysFrom = (now: string, days: number): string => new Date(Date.parse(now) + days * 86_400_000).toISOString();
