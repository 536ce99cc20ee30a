import type { Sql } from "../db";
import { allGroups, type GroupRecord, type Own, ownByLibrary, ownStamp, workingMaterials } from "../repo";

/** What rows are made with, small enough to be read whole: groups, working lists, what libraries add to the catalogue. */
export type Beside = {
	readonly groups: ReadonlyMap<string, GroupRecord>;
	readonly working: ReadonlySet<string>;
	readonly own: ReadonlyMap<string, Own>;
	/** Changes with what libraries add, and only with that. */
	readonly ownStamp: string;
};

/** The tables that it is read from. */
export const BESIDE = ["library_group", "working_list", "own_property", "own_use"] as const;

const NOTHING: Beside = { groups: new Map(), working: new Set(), own: new Map(), ownStamp: "" };

/** As it was read last; read anew, once for all who wait, when something was written since. */
export class BesideRows {
	private rows = NOTHING;
	private stale = true;
	private reading: Promise<void> = Promise.resolve();

	constructor(private readonly sql: Sql) {}

	/** Something was written. */
	touch(): void {
		this.stale = true;
	}

	now(): Beside {
		return this.rows;
	}

	async current(): Promise<Beside> {
		// one after the other: of two that overlap the one that began first would put older rows last
		this.reading = this.reading.catch(() => undefined).then(() => this.read());
		await this.reading;
		return this.rows;
	}

	private async read(): Promise<void> {
		if (!this.stale) return;
		this.stale = false;
		try {
			const [stamp, groups, working] = await Promise.all([ownStamp(this.sql), allGroups(this.sql), workingMaterials(this.sql)]);
			const own = stamp === this.rows.ownStamp ? this.rows.own : await ownByLibrary(this.sql);
			this.rows = { groups: new Map(groups.map((g) => [g.id, g])), working, own, ownStamp: stamp };
		} catch (cause) {
			this.stale = true;
			throw cause;
		}
	}
}
