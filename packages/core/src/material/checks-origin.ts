import type { Check, CheckContext } from "./checks";
import { sameNumbers } from "./edit";
import type { Material } from "./types";
import { isNumber, textDisagrees, valueLabel } from "./value";

const FIELD_WORD: Readonly<Record<string, string>> = {
	designations: "designation",
	supplier: "supplier",
	price: "price",
	links: "link",
	description: "description",
	colour: "look",
};

/** What came along from a base: unconfirmed values and words, a twin under a new name, the base's own designation. */
export function originChecks(material: Material, context: CheckContext): Check[] {
	return [...carriedChecks(material), ...twinChecks(material, context), ...movedChecks(material, context)];
}

function carriedChecks(material: Material): Check[] {
	const checks: Check[] = [];
	const carried = Object.values(material.values).filter((v) => v.carried !== undefined);
	const first = carried[0];
	if (first !== undefined) {
		const names = [...new Set(carried.map((v) => valueLabel(v).name))];
		checks.push({
			code: "carried-over",
			severity: "doubtful",
			title: carried.length === 1 ? "1 carried-over value" : `${carried.length} carried-over values`,
			detail: `${listed(names)} as in ${first.carried?.name}. Confirm or replace each.`,
			figures: [],
			values: carried.map((v) => v.id),
		});
	}
	const fields = Object.entries(material.carriedFields);
	const words = fields.map(([field]) => FIELD_WORD[field] ?? field);
	if (fields[0] !== undefined) {
		checks.push({
			code: "carried-words",
			severity: "doubtful",
			title: material.carriedFields.designations ? "Designation still the base’s" : "Words still the base’s",
			detail: `${listed(words)} came along from ${fields[0][1].name}. Confirm or replace.`,
			figures: [],
			values: [],
		});
	}
	return checks;
}

/** Renamed, but every number is the base's. */
function twinChecks(material: Material, { base }: CheckContext): Check[] {
	if (base == null) return [];
	const ids = Object.keys(material.values);
	const same = ids.filter((id) => sameNumbers(material.values[id] ?? null, base.document.values[id] ?? null));
	const follows = ids.some((id) => material.values[id]?.follows !== undefined);
	if (ids.length < 3 || same.length !== ids.length || follows) return [];
	return [
		{
			code: "same-as-base",
			severity: "doubtful",
			title: `Every number is that of ${base.name}`,
			detail: `All ${ids.length} values equal the base. If it is the same material, use the base; else put in its own numbers.`,
			figures: [],
			values: ids,
		},
	];
}

/** The base has a newer revision that says something else than what came along or is followed. */
function movedChecks(material: Material, { base }: CheckContext): Check[] {
	if (base?.head === undefined) return [];
	const { document, head } = base;
	const moved = Object.values(material.values).filter((v) => {
		const [then, now] = [document.values[v.id] ?? null, head.values[v.id] ?? null];
		const hangs = v.follows !== undefined || v.carried !== undefined;
		return hangs && !sameNumbers(then, now) && !sameNumbers(v, now);
	});
	if (moved.length === 0) return [];
	const names = [...new Set(moved.map((v) => valueLabel(v).name))];
	return [
		{
			code: "base-moved-on",
			severity: "doubtful",
			title: `${base.name} moved on`,
			detail: `${listed(names)}: its newest revision says something else. Bring it forward, or keep yours.`,
			figures: [],
			values: moved.map((v) => v.id),
		},
	];
}

function listed(names: readonly string[]): string {
	return names.length > 4 ? `${names.slice(0, 3).join(", ")} and ${names.length - 3} more` : names.join(", ");
}

/** A text that an older version read otherwise: the stored numbers stay until somebody types it again. */
export function textChecks(material: Material): Check[] {
	return Object.values(material.values).flatMap((value): Check[] => {
		if (!isNumber(value) || !textDisagrees(value)) return [];
		const ends = [value.low, value.high].filter((si) => si !== null);
		return [
			{
				code: "text-disagrees",
				severity: "doubtful",
				title: "The text and its number disagree",
				detail: `“${value.entered}” was stored as ${ends.map((_, i) => `{${i}}`).join(" to ")}; today it reads otherwise. Type it again.`,
				figures: ends.map((si) => ({ si, property: value.property })),
				values: [value.id],
			},
		];
	});
}
