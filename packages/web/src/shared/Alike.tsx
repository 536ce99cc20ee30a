import { useEffect, useState } from "react";
import { Link } from "react-router";
import { useRoute } from "../api/queries";
import { whyAlike } from "./alikeWords";

const LEAST = 3;
const SHOWN = 4;

type Typed = {
	readonly name: string;
	/** The one that is being named, where it is there already: its values are looked at, too. */
	readonly material?: string;
	/** What to do about it. */
	readonly says?: string;
};

/** While a name is typed: what may be the same material already. */
export function AlikeNames({ name, material, says }: Typed) {
	const typed = useLater(name.trim(), 250);
	const enabled = typed.length >= LEAST;
	const alike = useRoute("findAlike", { name: typed, ...(material === undefined ? {} : { material }) }, { enabled });
	const rows = enabled ? (alike.data ?? []) : [];
	if (rows.length === 0) return <div aria-live="polite" />;
	return (
		<section
			aria-label="Perhaps it is here already"
			aria-live="polite"
			className="bg-doubt-soft border-l-3 border-doubt px-2.5 py-1.5 mt-1.5"
		>
			<p className="font-semibold">{rows.some((r) => r.likely) ? "Perhaps it is here already" : "Its like is here"}</p>
			<ul>
				{rows.slice(0, SHOWN).map(({ row, ...like }) => (
					<li key={row.id} className="mt-0.75">
						<Link className="quiet-link font-semibold" to={`/materials/${row.id}`}>
							{row.name}
						</Link>
						<span className="block caption">
							{row.library}; {whyAlike(like)}
						</span>
					</li>
				))}
			</ul>
			{says !== undefined && <p className="mt-0.75">{says}</p>}
		</section>
	);
}

/** Before publishing: what the material, with its draft, is likely a second entry of. Nothing where there is none. */
export function LikelyDuplicates({ id, name }: { id: string; name: string }) {
	const alike = useRoute("findAlike", { material: id });
	const likely = alike.data?.filter((a) => a.likely) ?? [];
	if (likely.length === 0) return null;
	return (
		<section aria-label={`Likely duplicates of ${name}`} className="mt-3 bg-doubt-soft border-l-3 border-doubt px-3 py-2">
			<p className="font-semibold">{name} may be here already</p>
			<ul>
				{likely.map(({ row, ...like }) => (
					<li key={row.id} className="flex gap-2.5 py-0.75">
						<span className="min-w-0">
							<Link className="quiet-link font-semibold" to={`/materials/${row.id}`}>
								{row.name}
							</Link>{" "}
							<span className="text-ink2">
								in {row.library}: {whyAlike(like)}
							</span>
						</span>
						<Link className="quiet-link ml-auto shrink-0" to={`/compare?ids=${id},${row.id}`}>
							Compare
						</Link>
					</li>
				))}
			</ul>
			<p className="caption">It does not stand in the way. Two entries of one material can be merged later, too.</p>
		</section>
	);
}

/** A value that has rested for so many milliseconds. */
function useLater(value: string, ms: number): string {
	const [later, setLater] = useState(value);
	useEffect(() => {
		const timer = setTimeout(() => setLater(value), ms);
		return () => clearTimeout(timer);
	}, [value, ms]);
	return later;
}
