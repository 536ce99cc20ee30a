import { type Look, NAME_LIKE } from "@alvek/core/material";
import { lookWords } from "../../../ui/look/words";
import { useSheet } from "../context";

/** Words that came along from a base: designation, supplier, price ... each confirmed on its own. */
export function Words() {
	const { material, draft } = useSheet();
	const marks = NAME_LIKE.filter((field) => material.carriedFields[field] !== undefined);
	if (marks.length === 0) return null;
	const words = {
		designations: "Designations",
		supplier: "Supplier",
		price: "Price",
		links: "Links",
		description: "Description",
		colour: "Colour",
		look: "Look",
	} as const;
	return (
		<>
			<h2 className="rule-head text-md mt-5">Words carried over</h2>
			<ul>
				{marks.map((field) => (
					<li key={field} className="flex gap-3 items-center h-8 border-b border-line2">
						<span className="w-30">{words[field]}</span>
						<span className="carried truncate min-w-0">{fieldWords(material[field])}</span>
						{draft !== null && (
							<button
								type="button"
								className="quiet-link font-semibold ml-auto"
								aria-label={`Confirm ${words[field].toLowerCase()}`}
								onClick={() =>
									draft.commit(
										[{ at: `carriedFields:${field}`, from: material.carriedFields[field], to: null }],
										`${words[field]} confirmed`,
									)
								}
							>
								confirm
							</button>
						)}
					</li>
				))}
			</ul>
		</>
	);
}

function fieldWords(content: unknown): string {
	if (typeof content === "string") return content;
	if (Array.isArray(content))
		return content.map((d: unknown) => (typeof d === "string" ? d : (d as { text: string }).text)).join(", ");
	if (content === null) return "";
	return "roughness" in (content as object) ? lookWords(content as Look) : Object.values(content as object).join(" ");
}
