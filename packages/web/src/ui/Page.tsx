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
			<div className="max-w-[900px] mx-auto px-[22px] py-[18px]">
				<div className="flex items-start gap-[16px] mb-[14px]">
					<div className="min-w-0">
						<h1>{title}</h1>
						{says !== undefined && <p className="text-ink2 mt-[2px] max-w-[640px]">{says}</p>}
					</div>
					{aside !== undefined && <div className="ml-auto shrink-0 flex gap-[8px]">{aside}</div>}
				</div>
				{children}
			</div>
		</section>
	);
}

/** A part of a page under an ink rule. */
export function Part({ title, aside, children }: { title: string; aside?: ReactNode; children: ReactNode }) {
	return (
		<section aria-label={title} className="mt-[22px]">
			<div className="flex items-end border-b border-ink min-h-[30px] pb-[4px]">
				<h2 className="font-bold">{title}</h2>
				{aside !== undefined && <div className="ml-auto flex gap-[8px] items-center">{aside}</div>}
			</div>
			{children}
		</section>
	);
}

const DAY = { day: "numeric", month: "short", year: "numeric" } as const;

export const dayOf = (iso: string): string => new Date(iso).toLocaleDateString("en-GB", DAY);

export const momentOf = (iso: string): string =>
	new Date(iso).toLocaleString("en-GB", { ...DAY, hour: "2-digit", minute: "2-digit" });
