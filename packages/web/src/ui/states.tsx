import { describeIssue } from "@alvek/core/result";
import { Component, type ReactNode } from "react";
import { IssueError } from "../api/client";

/** What to do when there is nothing. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
	return (
		<div className="p-[32px] max-w-[480px]">
			<p className="text-[15px] font-bold mb-[6px]">{title}</p>
			<div className="text-ink2 leading-[20px]">{children}</div>
		</div>
	);
}

/** Quiet lines in the place of rows that are on their way. */
export function Loading({ what }: { what: string }) {
	return (
		<div role="status" aria-label={`${what} on the way`} className="p-[16px] flex flex-col gap-[14px]">
			{[60, 45, 70, 38, 52].map((w) => (
				<div key={w} className="h-[12px] bg-sunk rounded-[2px]" style={{ width: `${w}%` }} />
			))}
		</div>
	);
}

export function Failure({ error, retry }: { error: Error; retry?: () => void }) {
	const text = error instanceof IssueError ? error.issues.map(describeIssue).join(" ") : String(error.message);
	return (
		<div role="alert" className="m-[24px] p-[14px] border-l-[3px] border-wrong bg-wrong-soft max-w-[560px]">
			<p>{text}</p>
			{retry && (
				<button type="button" className="btn btn-small mt-[10px]" onClick={retry}>
					Try again
				</button>
			)}
		</div>
	);
}

/** The last net under a place: a bug shows itself and the way on; saved data are on the server. */
export class ErrorBoundary extends Component<{ children: ReactNode }, { error: Error | null }> {
	override state = { error: null as Error | null };

	static getDerivedStateFromError(error: Error) {
		return { error };
	}

	override render() {
		if (this.state.error === null) return this.props.children;
		return (
			<div role="alert" className="m-[24px] p-[16px] border-l-[3px] border-wrong bg-wrong-soft max-w-[640px]">
				<p className="font-bold text-[15px] mb-[4px]">This place stopped working.</p>
				<p className="mb-[10px]">What was saved is safe on the server. ({this.state.error.message})</p>
				<button type="button" className="btn" onClick={() => location.reload()}>
					Load it again
				</button>
			</div>
		);
	}
}
