import type { Material } from "@alvek/core/material";
import type { Page } from "@alvek/core/page";

/** The head of the table of proposals. */
export function Heads() {
	return (
		<thead>
			<tr className="border-b border-ink text-left caption">
				<th className="w-7 py-1.5">
					<span className="sr-only">Take</span>
				</th>
				<th className="w-13.5">
					<span className="sr-only">Symbol</span>
				</th>
				<th className="w-42.5 font-semibold">Property</th>
				<th className="w-40 font-semibold">Becomes</th>
				<th className="w-40 font-semibold">As written</th>
				<th className="font-semibold">Say or check</th>
			</tr>
		</thead>
	);
}

type PriceProps = {
	price: NonNullable<Page["price"]>;
	replaces: Material["price"];
	ticked: boolean;
	focused: boolean;
	onFocus: () => void;
	onTick: (on: boolean) => void;
};

export function PriceRow({ price, replaces, ticked, focused, onFocus, onTick }: PriceProps) {
	return (
		<tr className={`border-b border-line2 h-8.25 ${focused ? "bg-accent-soft" : ""}`} onMouseEnter={onFocus}>
			<td>
				<input
					type="checkbox"
					className="checkbox"
					aria-label="Take the price"
					checked={ticked}
					disabled={price.per !== "kg"}
					onChange={(e) => onTick(e.target.checked)}
				/>
			</td>
			<td />
			<td>Price</td>
			<td className="font-semibold">
				{price.amount} {price.currency}/{price.per}
			</td>
			<td className="text-ink2">the same</td>
			<td className="caption">
				{price.question !== undefined && <span className="tag tag-doubt mr-1.5">{price.question}</span>}
				{price.per !== "kg"
					? "prices are kept per kilogram; type it on the sheet"
					: replaces === null
						? "dated today"
						: `dated today; replaces ${replaces.amount} ${replaces.currency}`}
			</td>
		</tr>
	);
}

type CompositionProps = {
	composition: Page["compositions"][number];
	replaces: boolean;
	ticked: boolean;
	onFocus: () => void;
	onTick: (on: boolean) => void;
};

export function CompositionRow({ composition: c, replaces, ticked, onFocus, onTick }: CompositionProps) {
	return (
		<tr className={`border-b border-line2 h-8.25 ${ticked ? "" : "text-ink2"}`} onMouseEnter={onFocus}>
			<td>
				<input
					type="checkbox"
					className="checkbox"
					aria-label={`Take the composition ${c.label}`}
					checked={ticked}
					onChange={(e) => onTick(e.target.checked)}
				/>
			</td>
			<td />
			<td className="pr-2">Composition{c.label === "" ? "" : `, ${c.label}`}</td>
			<td className="font-semibold pr-2">{c.elements.length} constituents</td>
			<td className="text-ink2">{c.elements.map((e) => e.element).join(" ")}</td>
			<td className="caption">{replaces && "replaces the composition that is there"}</td>
		</tr>
	);
}
