/** How many backups stay: the newest of each of so many days, weeks and months that have one. */
export type Retention = { readonly days: number; readonly weeks: number; readonly months: number };

const NAME = /^alvek-(\d{4}-\d{2}-\d{2})T(\d{2})-(\d{2})-(\d{2})Z\.tar\.gz$/;

/** When a backup was made, by its name (UTC ISO); null for any other file. */
export function madeAt(name: string): string | null {
	const parts = NAME.exec(name);
	if (parts === null) return null;
	const [, day, hour, minute, second] = parts;
	const at = `${day}T${hour}:${minute}:${second}.000Z`;
	return Number.isNaN(Date.parse(at)) ? null : at;
}

/** The Monday of a day's week, as a number of days since 1970. */
const weekOf = (at: string): string => String(Math.floor((Date.parse(at) / 86_400_000 + 3) / 7));

/**
 * Which of these files may be deleted. Only backups by their name are ever among them, and never the newest one.
 * @param names files of the folder, in any order
 */
export function toDelete(names: readonly string[], keep: Retention): readonly string[] {
	const backups = names.flatMap((name) => {
		const at = madeAt(name);
		return at === null ? [] : [{ name, at }];
	});
	backups.sort((a, b) => (a.at < b.at ? 1 : -1));
	const kept = new Set(backups.slice(0, 1).map((b) => b.name));
	const rules: readonly (readonly [(at: string) => string, number])[] = [
		[(at) => at.slice(0, 10), keep.days],
		[weekOf, keep.weeks],
		[(at) => at.slice(0, 7), keep.months],
	];
	for (const [periodOf, most] of rules) {
		const periods = new Set<string>();
		for (const { name, at } of backups) {
			const period = periodOf(at);
			if (periods.has(period) || periods.size >= most) continue;
			periods.add(period);
			kept.add(name);
		}
	}
	return backups.map((b) => b.name).filter((name) => !kept.has(name));
}
