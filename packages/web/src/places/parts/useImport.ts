import { type ProjectView, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { changesAnswer } from "@alvek/core/event";
import { leftOutInWords } from "@alvek/core/part21";
import { useCallback, useRef, useState } from "react";
import { call, newId, upload } from "../../api/client";
import { askAgain } from "../../api/mutate";
import { queryClient, sentences } from "../../api/queries";
import { followJob } from "../../live/jobs";
import { showToast } from "../../stores/toasts";

/** An import on its way: the upload, then the reading of the geometry. */
export type ImportState =
	| { readonly file: string; readonly stage: string; readonly share: number }
	| { readonly file: string; readonly error: string }
	/** A file of this name is here with other content: what becomes of that one? */
	| { readonly file: string; readonly same: File }
	| null;

export type Same = "replace" | "beside";

/** A job of an upload that was broken off is looked for so often. */
const AGAIN_MS = 250;

const PORTS = {
	getJob: (input: { id: string }) => call("getJob", input),
	wait: (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms)),
};

/** Sends a file and follows its job; cancel stops either phase and leaves nothing behind. */
export function useImport(project: string) {
	const [state, setState] = useState<ImportState>(null);
	const running = useRef<{ controller: AbortController; job: string } | null>(null);

	const start = useCallback(
		async (file: File, same?: Same) => {
			if (file.size > UPLOAD_LIMIT_BYTES) {
				return setState({ file: file.name, error: sentences([{ code: "upload-too-large", expected: "200 MB" }]) });
			}
			const controller = new AbortController();
			const job = newId();
			const before = new Set(importsOf(project).map((i) => i.hash));
			running.current = { controller, job };
			setState({ file: file.name, stage: "sending", share: 0 });
			const followed = followJob(job, PORTS, (view) =>
				setState({ file: file.name, stage: view.stage, share: 0.3 + view.progress * 0.7 }),
			);
			const path = `/projects/${project}/geometry?${new URLSearchParams({ file: file.name.slice(0, 300), job, ...(same === undefined ? {} : { same }) })}`;
			const sent = await upload(
				path,
				file,
				(share) => setState({ file: file.name, stage: "sending", share: share * 0.3 }),
				controller.signal,
			);
			if (!sent.ok) {
				followed.stop();
				running.current = null;
				if (sent.issues[0]?.code === "same-name") return setState({ file: file.name, same: file });
				if (sent.issues[0]?.code !== "cancelled") return setState({ file: file.name, error: sentences(sent.issues) });
				await stopJob(job);
				setState(null);
				return sayCancelled(file.name);
			}
			const done = await followed.ended();
			running.current = null;
			if (done.state === "done") {
				await askAgain((question) => changesAnswer("project.import", question));
				setState(null);
				return showToast({
					tone: "plain",
					text: `${file.name} is in.${leftOutSaid(importsOf(project).filter((i) => !before.has(i.hash)))}`,
				});
			}
			setState(done.state === "cancelled" ? null : { file: file.name, error: sentences(done.issues) });
			if (done.state === "cancelled") sayCancelled(file.name);
		},
		[project],
	);
	const cancel = useCallback(() => {
		if (running.current === null) return;
		running.current.controller.abort();
		void call("cancelJob", { id: running.current.job });
	}, []);
	const dismiss = useCallback(() => setState(null), []);
	return { state, start, cancel, dismiss };
}

type Imports = ProjectView["imports"];

/** Files of the project as it is known now. */
const importsOf = (project: string): Imports =>
	queryClient.getQueryData<ProjectView>(["getProject", { id: project }])?.imports ?? [];

/** What was left out of what came in, where anything was; the file itself may stand under its name in an archive. */
function leftOutSaid(arrived: Imports): string {
	const leftOut = arrived.flatMap((i) => i.leftOut);
	return leftOut.length === 0 ? "" : ` Left out, because it has no volume: ${leftOutInWords(leftOut)}.`;
}

function sayCancelled(file: string): void {
	showToast({ tone: "plain", text: `${file}: cancelled, nothing was imported.` });
}

/**
 * Stops the job of an upload that was broken off. The last bytes may have arrived all the same, and the job begun while
 * the connection closed, so it is looked for a few times; usually there is none.
 */
async function stopJob(job: string): Promise<void> {
	for (let attempt = 0; attempt < 4; attempt++) {
		const stopped = await call("cancelJob", { id: job });
		if (stopped.ok) return;
		await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
	}
}
