import type { LibraryView } from "@alvek/contract";
import { useMe } from "../api/queries";
import { isKeptBy, KEEPERS, type Keeper } from "./keepers";

/** Whose libraries are shown, by one click each; nothing where all are kept by the same. */
export function Keepers({
	libraries,
	pressed,
	choose,
	className = "",
}: {
	libraries: readonly LibraryView[];
	pressed: Keeper | null;
	/** Null: all of them. */
	choose: (keeper: Keeper | null) => void;
	className?: string;
}) {
	const me = useMe()?.id ?? null;
	if (KEEPERS.some(({ id }) => !libraries.some((l) => isKeptBy(l, id, me)))) return null;
	return (
		<div className={`flex flex-wrap gap-1.5 ${className}`}>
			{KEEPERS.map(({ id, name }) => (
				<button
					key={id}
					type="button"
					aria-pressed={pressed === id}
					className={`rounded-sm border px-1.5 leading-5 text-xs ${pressed === id ? "bg-primary-soft border-primary font-semibold" : "border-line hover:bg-sunk"}`}
					onClick={() => choose(pressed === id ? null : id)}
				>
					{name}
				</button>
			))}
		</div>
	);
}
