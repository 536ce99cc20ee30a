import { placeSolid, type SolidGeometry } from "@alvek/core/mass";
import { occurrences } from "@alvek/core/part21";
import type { StepGeometry } from "./read";

/** One solid of one occurrence, in assembly coordinates. */
export type Body = {
	readonly path: string;
	/** Name and id of the product. */
	readonly name: string;
	readonly productId: string;
	readonly solid: SolidGeometry;
};

/** Every solid where its occurrences put it: a part used twice gives two bodies. */
export function bodiesOf(geometry: StepGeometry): readonly Body[] {
	const measured = new Map(geometry.solids.map((s) => [s.entity, s.geometry]));
	return occurrences(geometry.model).flatMap((occurrence) => {
		const product = geometry.model.products[occurrence.product];
		return (product?.solids ?? []).map((solid): Body => {
			const own = placeSolid(measured.get(solid.entity) as SolidGeometry, solid.placement);
			return {
				path: occurrence.path,
				name: product?.name ?? "",
				productId: product?.id ?? "",
				solid: placeSolid(own, occurrence.placement),
			};
		});
	});
}
