import { UNIT_SETS, type UnitSetId } from "@alvek/core/property";
import { NavLink } from "react-router";
import { usePreferences } from "../stores/preferences";
import { AccountMenu } from "./AccountMenu";
import { Bell } from "./Bell";
import { Finder } from "./finder/Finder";

/** Places that exist, as words. */
const PLACES = [
	{ to: "/materials", name: "Materials" },
	{ to: "/parts", name: "Parts" },
	{ to: "/libraries", name: "Libraries" },
] as const;

export function TopBar() {
	const { unitSet, set } = usePreferences();
	return (
		<header className="h-12 max-md:h-auto shrink-0 flex max-md:flex-wrap items-center bg-card border-b border-line px-4 max-md:px-2.5">
			<NavLink to="/materials" className="flex items-center gap-2 mr-6 max-md:mr-1" aria-label="Alvek, to the materials">
				<Mark />
				<span className="text-2xl font-extrabold tracking-[-0.03em] max-md:hidden">alvek</span>
			</NavLink>
			<nav aria-label="Places" className="flex h-full max-md:h-11">
				{PLACES.map((p) => (
					<NavLink
						key={p.to}
						to={p.to}
						className={({ isActive }) =>
							`h-full px-2.5 max-md:px-1.5 mr-1 max-md:mr-0 flex items-center text-md border-b-2 ${isActive ? "font-bold border-primary" : "border-transparent text-ink2 hover:text-ink"}`
						}
					>
						{p.name}
					</NavLink>
				))}
			</nav>
			<Finder />
			<label className="flex items-center gap-1.5 text-ink2 max-md:ml-auto">
				<span className="max-md:sr-only">Units</span>
				<select
					className="bg-transparent font-semibold text-ink h-7.5 cursor-pointer max-md:w-16 text-ellipsis"
					value={unitSet}
					onChange={(e) => set({ unitSet: e.target.value as UnitSetId })}
				>
					{UNIT_SETS.map((s) => (
						<option key={s.id} value={s.id} className="bg-card">
							{s.name}
						</option>
					))}
				</select>
			</label>
			<span className="ml-2 max-md:ml-0">
				<Bell />
			</span>
			<AccountMenu />
		</header>
	);
}

/** Our mark: a ridge over a line. */
export function Mark() {
	return (
		<svg
			width="22"
			height="22"
			viewBox="0 0 24 24"
			aria-hidden="true"
			fill="none"
			strokeLinecap="round"
			strokeLinejoin="round"
			strokeWidth="3"
		>
			<path d="M4 17 12 5l8 12" stroke="currentColor" />
			<path d="M8.5 20.5h7" stroke="var(--color-primary)" />
		</svg>
	);
}
