import { describeIssue } from "@alvek/core/result";
import { Component, type ReactNode } from "react";
import { IssueError } from "../api/client";

/** What to do when there is nothing. */
export function Empty({ title, children }: { title: string; children?: ReactNode }) {
	return (
		<div className="p-8 max-w-120">
			<p className="text-lg font-bold mb-1.5">{title}</p>
			<div className="text-ink2 leading-5">{children}</div>
		</div>
	);
}

/** Quiet lines in the place of rows that are on their way. */
export function Loading({ what }: { what: string }) {
	return (
		<div role="status" aria-label={`${what} on the way`} className="p-4 flex flex-col gap-3.5">
			{[60, 45, 70, 38, 52].map((w) => (
				<div key={w} className="h-3 bg-sunk rounded-sm" style={{ width: `${w}%` }} />
			))}
		</div>
	);
}

export function Failure({ error, retry }: { error: Error; retry?: () => void }) {
	const text = error instanceof IssueError ? error.issues.map(describeIssue).join(" ") : String(error.message);
	return (
		<div role="alert" className="m-6 p-3.5 border-l-3 border-wrong bg-wrong-soft max-w-140">
			<p>{text}</p>
			{retry && (
				<button type="button" className="btn btn-small mt-2.5" onClick={retry}>
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
			<div role="alert" className="m-6 p-4 border-l-3 border-wrong bg-wrong-soft max-w-160">
				<p className="font-bold text-lg mb-1">This place stopped working.</p>
				<p className="mb-2.5">What was saved is safe on the server. ({this.state.error.message})</p>
				<button type="button" className="btn" onClick={() => location.reload()}>
					Load it again
				</button>
			</div>
		);
	}
}
