import type { Price } from "../material";
import { inCurrency, type Money } from "./money";

/** What is needed of a part to cost it. */
export type CostedPart = {
	readonly quantity: number;
	/** kg of one piece; null without a material or a density. */
	readonly mass_kg: number | null;
	readonly price: Price | null;
	/** kg CO2 equivalent per kg; null where nobody says it. */
	readonly carbon: number | null;
};

/** What a weighed part brings to its cost. */
export function costedPart(part: {
	readonly quantity: number;
	readonly mass_kg: { readonly mass: number } | null;
	readonly assignment: { readonly price: Price | null; readonly carbon: number | null } | null;
}): CostedPart {
	const { quantity, mass_kg, assignment } = part;
	return { quantity, mass_kg: mass_kg?.mass ?? null, price: assignment?.price ?? null, carbon: assignment?.carbon ?? null };
}

/** Why a part adds nothing to a sum. */
export type Gap = "no-mass" | "no-price" | "no-rate" | "no-carbon";

export type PartCost = {
	/** One piece, in the wanted currency. */
	readonly cost: number | null;
	readonly costGap: Gap | null;
	/** kg CO2 equivalent of one piece. */
	readonly carbon_kg: number | null;
	readonly carbonGap: Gap | null;
};

export type CostTotals = {
	/** Of the parts that have one; null when none has. */
	readonly cost: number | null;
	readonly carbon_kg: number | null;
	/** Pieces, and how many of them count in each sum. */
	readonly pieces: number;
	readonly piecesWithCost: number;
	readonly piecesWithCarbon: number;
	/** Mass of all pieces that have one, and of those that count in each sum. */
	readonly mass_kg: number;
	readonly massWithCost_kg: number;
	readonly massWithCarbon_kg: number;
	/** Currencies that a rate is missing for. */
	readonly ratesMissing: readonly string[];
};

/** Cost and carbon of one piece: what the material in it costs and carries, not what is made of it. */
export function costOf(part: CostedPart, money: Money): PartCost {
	const { mass_kg: mass, price, carbon } = part;
	if (mass === null) return { cost: null, costGap: "no-mass", carbon_kg: null, carbonGap: "no-mass" };
	const perMass = price === null ? null : inCurrency(Number(price.amount), price.currency, money);
	return {
		cost: perMass === null ? null : perMass * mass,
		costGap: price === null ? "no-price" : perMass === null ? "no-rate" : null,
		carbon_kg: carbon === null ? null : carbon * mass,
		carbonGap: carbon === null ? "no-carbon" : null,
	};
}

/** Sums over all pieces with what they cover, so that nobody takes a part of the sum for the whole. */
export function rollUpCosts(parts: readonly CostedPart[], money: Money): CostTotals {
	const sums = { cost: 0, carbon: 0, pieces: 0, withCost: 0, withCarbon: 0, mass: 0, massWithCost: 0, massWithCarbon: 0 };
	const missing = new Set<string>();
	for (const part of parts) {
		const { cost, costGap, carbon_kg } = costOf(part, money);
		const { quantity: n } = part;
		const mass = n * (part.mass_kg ?? 0);
		sums.pieces += n;
		sums.mass += mass;
		if (costGap === "no-rate" && part.price !== null) missing.add(part.price.currency);
		if (cost !== null) {
			sums.cost += n * cost;
			sums.withCost += n;
			sums.massWithCost += mass;
		}
		if (carbon_kg !== null) {
			sums.carbon += n * carbon_kg;
			sums.withCarbon += n;
			sums.massWithCarbon += mass;
		}
	}
	return {
		cost: sums.withCost === 0 ? null : sums.cost,
		carbon_kg: sums.withCarbon === 0 ? null : sums.carbon,
		pieces: sums.pieces,
		piecesWithCost: sums.withCost,
		piecesWithCarbon: sums.withCarbon,
		mass_kg: sums.mass,
		massWithCost_kg: sums.massWithCost,
		massWithCarbon_kg: sums.massWithCarbon,
		ratesMissing: [...missing].sort(),
	};
}
