import { CircleHelp, LogOut, Moon, Sun, UserRound, Users } from "lucide-react";
import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";
import { call } from "../api/client";
import { useMe } from "../api/queries";
import { showIssues } from "../api/refusals";
import { useHelp } from "../stores/help";
import { usePreferences } from "../stores/preferences";
import { Popover } from "./Popover";

/** Whose page this is, and what is one's own: colours, account, people, the way out. */
export function AccountMenu() {
	const me = useMe();
	const { theme, toggleTheme } = usePreferences();
	const { pathname } = useLocation();
	if (me === null) return null;
	return (
		<div className="ml-1.5">
			<Popover
				key={pathname}
				label="Account"
				button={<Initials name={me.name} initials={me.initials} />}
				buttonName={`Account of ${me.name}`}
			>
				<div className="w-55 py-1.5">
					<p className="px-3 pb-1.5 mb-1 border-b border-line2 font-semibold truncate">
						{me.name}
						{me.admin && <span className="block caption font-normal">administrator</span>}
					</p>
					<Entry to="/account" icon={<UserRound size={15} aria-hidden />}>
						Your account
					</Entry>
					<Entry to="/people" icon={<Users size={15} aria-hidden />}>
						People and teams
					</Entry>
					<button type="button" className={ENTRY} onClick={toggleTheme}>
						{theme === "day" ? <Moon size={15} aria-hidden /> : <Sun size={15} aria-hidden />}
						{theme === "day" ? "Night colours" : "Day colours"}
					</button>
					<button type="button" className={ENTRY} onClick={() => useHelp.getState().turn(true)}>
						<CircleHelp size={15} aria-hidden /> Help, marks and keys
					</button>
					<button type="button" className={ENTRY} onClick={() => signOut(false)}>
						<LogOut size={15} aria-hidden /> Sign out
					</button>
				</div>
			</Popover>
		</div>
	);
}

const ENTRY = "w-full h-8 px-3 flex items-center gap-2.5 text-left hover:bg-sunk";

function Entry({ to, icon, children }: { to: string; icon: ReactNode; children: ReactNode }) {
	return (
		<Link to={to} className={ENTRY}>
			{icon} {children}
		</Link>
	);
}

/** A person in the width of two letters; the name is read out and shown on hover. */
export function Initials({ name, initials }: { name: string; initials: string }) {
	return (
		<span
			title={name}
			className="w-6.5 h-6.5 rounded-full bg-accent-soft text-primary font-bold text-xs inline-flex items-center justify-center shrink-0"
		>
			<span aria-hidden>{initials}</span>
		</span>
	);
}

/** Ends the session and shows the way in again; nothing of the person stays in this page. */
export async function signOut(everywhere: boolean): Promise<void> {
	const result = await call("signOut", { everywhere });
	if (!result.ok) return showIssues(result.issues);
	usePreferences.getState().forget();
	location.assign("/materials");
}
