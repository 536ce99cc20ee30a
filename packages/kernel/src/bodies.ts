import { placeSolid, type SolidGeometry } from "@alvek/core/mass";
import { occurrences } from "@alvek/core/part21";
import type { GeometryDoubt, ReadSolid, StepGeometry } from "./read";

/** One solid of one occurrence, in assembly coordinates. */
export type Body = {
	readonly path: string;
	/** Name and id of the product. */
	readonly name: string;
	readonly productId: string;
	readonly solid: SolidGeometry;
	/** Why its volume may not be what was drawn. */
	readonly doubt: GeometryDoubt | null;
};

/** Every solid where its occurrences put it: a part used twice gives two bodies. */
export function bodiesOf(geometry: StepGeometry): readonly Body[] {
	const measured = new Map(geometry.solids.map((s) => [s.entity, s]));
	return occurrences(geometry.model).flatMap((occurrence) => {
		const product = geometry.model.products[occurrence.product];
		return (product?.solids ?? []).map((solid): Body => {
			const read = measured.get(solid.entity) as ReadSolid;
			const own = placeSolid(read.geometry, solid.placement);
			return {
				path: occurrence.path,
				name: product?.name ?? "",
				productId: product?.id ?? "",
				solid: placeSolid(own, occurrence.placement),
				doubt: read.doubt,
			};
		});
	});
}
