import type { Issue } from "@alvek/core/result";
import { sentences } from "../api/queries";
import { wayOut } from "../api/refusals";

/** Why something was refused, where it was asked for, with the way out where there is one. */
export function Refusal({ issues, className = "" }: { issues: readonly Issue[]; className?: string }) {
	const way = wayOut(issues);
	return (
		<p role="alert" className={`text-wrong ${className}`}>
			{sentences(issues)}
			{way !== null && (
				<button type="button" className="btn btn-small ml-2" onClick={way.run}>
					{way.label}
				</button>
			)}
		</p>
	);
}
