import type { Sheet } from "@alvek/contract";
import { asVariant, BLANK, fromSimilar, type Material, makeValue } from "@alvek/core/material";
import { describe, expect, it } from "vitest";
import { following } from "../Details";
import { compared, needsOwnLook } from "./bulk";

function number(id: string, text: string) {
	const made = makeValue(id, text);
	if (!made.ok) throw new Error();
	return made.value;
}
const document = (...values: ReturnType<typeof number>[]): Material => ({
	...BLANK,
	condition: "T6",
	values: Object.fromEntries(values.map((v) => [v.id, v])),
});
const first = document(number("density", "8.8 g/cm3"), number("hardness", "80 HBW"), number("tensile_strength", "260 MPa"));
const head = document(
	number("density", "8.9 g/cm3"),
	number("hardness", "80 HBW"),
	number("tensile_strength", "260 MPa"),
	number("thermal_conductivity", "62 W/(m·K)"),
);
const base = {
	id: "b",
	uid: "u",
	name: "Base",
	kind: "variant",
	revision: 1,
	headRevision: 2,
	document: first,
	head,
} as NonNullable<Sheet["base"]>;
const origin = { name: "Base", uid: "u", revision: 1 };

describe("values beside the base", () => {
	it("say own, follows, behind, carried over, only in the base, in the order of the catalogue", () => {
		const variant = asVariant(first, origin);
		const own: Material = { ...variant, values: { ...variant.values, tensile_strength: number("tensile_strength", "234 MPa") } };
		expect(compared(own, base).map((l) => [l.id, l.state, l.same])).toEqual([
			["density", "behind", false],
			["hardness", "follows", true],
			["tensile_strength", "own", false],
			["thermal_conductivity", "missing", false],
		]);
		const similar = fromSimilar(first, origin);
		expect(compared(similar, base)[0]?.state).toBe("carried");
	});

	it("without a base show what is there", () => {
		expect(compared(first, null).map((l) => l.state)).toEqual(["own", "own", "own"]);
	});

	it("strength and hardness are looked at one by one where the condition differs, or the base cannot be read", () => {
		const sheet = { base } as Sheet;
		const same = fromSimilar(first, origin);
		const harder = { ...same, condition: "T73" };
		const look = (m: Material, s: Sheet): string[] =>
			Object.values(m.values)
				.filter((v) => needsOwnLook(v, s, m))
				.map((v) => v.id);
		expect(look(same, sheet)).toEqual([]);
		expect(look(harder, sheet)).toEqual(["hardness", "tensile_strength"]);
		expect(look(same, { base: { ...base, document: null } } as unknown as Sheet)).toEqual(["hardness", "tensile_strength"]);
	});

	it("follow takes the base's newest value and no longer counts as carried", () => {
		const value = following(head.values.density as never, "density", base);
		expect(value).toMatchObject({ entered: "8.9 g/cm3", follows: { name: "Base", revision: 2 } });
		expect(value.carried).toBeUndefined();
	});
});
