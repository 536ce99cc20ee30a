import type { ReactNode } from "react";

/** A place that reads as one column: title, what it says in a line, the rest. */
export function Page({
	title,
	says,
	aside,
	children,
}: {
	title: string;
	says?: ReactNode;
	aside?: ReactNode;
	children: ReactNode;
}) {
	return (
		<section aria-label={title} className="flex-1 min-w-0 bg-card overflow-y-auto">
			<div className="max-w-225 mx-auto px-5.5 py-4.5">
				<div className="flex items-start gap-4 mb-3.5">
					<div className="min-w-0">
						<h1>{title}</h1>
						{says !== undefined && <p className="text-ink2 mt-0.5 max-w-160">{says}</p>}
					</div>
					{aside !== undefined && <div className="ml-auto shrink-0 flex gap-2">{aside}</div>}
				</div>
				{children}
			</div>
		</section>
	);
}

/** A part of a page under an ink rule. */
export function Part({ title, aside, children }: { title: string; aside?: ReactNode; children: ReactNode }) {
	return (
		<section aria-label={title} className="mt-5.5">
			<div className="flex items-end border-b border-ink min-h-7.5 pb-1">
				<h2 className="font-bold">{title}</h2>
				{aside !== undefined && <div className="ml-auto flex gap-2 items-center">{aside}</div>}
			</div>
			{children}
		</section>
	);
}

const DAY = { day: "numeric", month: "short", year: "numeric" } as const;

export const dayOf = (iso: string): string => new Date(iso).toLocaleDateString("en-GB", DAY);

export const momentOf = (iso: string): string =>
	new Date(iso).toLocaleString("en-GB", { ...DAY, hour: "2-digit", minute: "2-digit" });
