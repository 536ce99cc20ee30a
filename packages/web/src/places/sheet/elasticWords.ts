import type { ElasticSource } from "@alvek/core/material";
import { property } from "@alvek/core/property";
import { listed } from "../../ui/words";

/** What analyses take the elasticity from, and why, under the directional set. */
export function elasticInWords({ from, missing, stated }: ElasticSource, ticked: boolean): string {
	const without =
		missing.length === 0 ? "" : `Missing for its symmetry: ${missing.map((name) => name.replace("nu", "ν")).join(", ")}.`;
	if (from === "set") {
		if (missing.length > 0) return `${without} Analyses wait for it.`;
		return ticked
			? "Analyses work with this set."
			: `Analyses work with this set by itself, as it is complete and ${stated.length === 0 ? "none" : "only one"} of E, ν, G, K is given.`;
	}
	if (stated.length >= 2) {
		const symbols = listed(stated.map((id) => property(id).symbol));
		return `${without} Analyses work with ${symbols}; tick here to use the set instead.`.trim();
	}
	return `${without} Once it is complete, analyses work with it by itself.`;
}
