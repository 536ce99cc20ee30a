import { LateStrings, type Numbers, type StoredTable } from "./image";
import type { TableRow } from "./query";

/** A slot that is not in use. */
const FREE = "-";

/** Slots of rows, and what each says in words. */
export class RowStore {
	/** Rows from the start that may be in use. */
	size = 0;
	ids: string[] = [];
	names: string[] = [];
	/** "" for a published row. */
	persons: string[] = [];
	/** "" where none is planned. */
	reviews: string[] = [];
	itemCodes: string[] = [];
	conditions: string[] = [];
	/** What a text filter looks in, in small letters. */
	texts = new LateStrings();
	private readonly free: number[] = [];
	/** Null: to be read off the rows when first asked for. */
	private known: Map<string, number> | null = new Map();

	/** The slot of a row; undefined when there is none. */
	slotOf(id: string, person: string | null): number | undefined {
		return this.slots().get(keyOf(id, person));
	}

	private slots(): Map<string, number> {
		if (this.known !== null) return this.known;
		this.known = new Map();
		for (let at = 0; at < this.size; at++) if (!this.isFree(at)) this.known.set(keyOf(this.ids[at], this.persons[at]), at);
		return this.known;
	}

	isFree(at: number): boolean {
		return this.persons[at] === FREE;
	}

	/** Puts a row that is not there yet, and tells its slot. */
	add(row: TableRow): number {
		const slots = this.slots();
		const at = this.free.pop() ?? this.size++;
		slots.set(keyOf(row.id, row.person), at);
		this.ids[at] = row.id;
		this.names[at] = row.name;
		this.persons[at] = row.person ?? "";
		this.texts.set(at, `${row.name}\n${row.group}\n${row.codes}\n`.toLowerCase() + row.facts.words);
		this.reviews[at] = row.review ?? "";
		this.itemCodes[at] = row.itemCode;
		this.conditions[at] = row.facts.condition;
		return at;
	}

	remove(at: number): void {
		this.slots().delete(keyOf(this.ids[at], this.persons[at]));
		this.persons[at] = FREE;
		this.free.push(at);
	}

	/** Drafts that stand beside their materials. */
	drafts(): readonly { readonly id: string; readonly person: string }[] {
		const drafts: { id: string; person: string }[] = [];
		for (let at = 0; at < this.size; at++)
			if (this.persons[at] !== "" && !this.isFree(at)) drafts.push({ id: this.ids[at], person: this.persons[at] });
		return drafts;
	}

	image(): { readonly numbers: ReadonlyMap<string, Numbers>; readonly strings: ReadonlyMap<string, readonly string[]> } {
		const texts = this.texts.all();
		return {
			numbers: new Map([["free", Int32Array.from(this.free)]]),
			strings: new Map([
				["ids", this.ids],
				["names", this.names],
				["persons", this.persons],
				["reviews", this.reviews],
				["itemCodes", this.itemCodes],
				["conditions", this.conditions],
				["texts", Array.from({ length: this.size }, (_, at) => texts[at] ?? "")],
			]),
		};
	}

	static from(stored: StoredTable): RowStore {
		const rows = new RowStore();
		for (const name of ["ids", "names", "persons", "reviews", "itemCodes", "conditions"] as const)
			rows[name] = [...stored.strings(name)];
		rows.size = rows.ids.length;
		rows.texts = new LateStrings(() => stored.strings("texts"));
		for (const at of stored.numbers.get("free") ?? []) rows.free.push(at);
		rows.known = null;
		return rows;
	}
}

function keyOf(id: string, person: string | null): string {
	return `${id}\u0000${person ?? ""}`;
}
