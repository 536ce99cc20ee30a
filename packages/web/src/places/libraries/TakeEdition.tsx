import type { TakenEdition } from "@alvek/contract";
import type { Issue } from "@alvek/core/result";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { upload } from "../../api/client";
import { refreshAll, sentences } from "../../api/queries";
import { showToast } from "../../stores/toasts";
import { Dialog } from "../../ui/Dialog";
import { counted } from "../../ui/words";
import { ChangeList } from "./ChangeList";

/** An edition's file: first what it would do, then the act. */
export function TakeEdition({ above, close }: { above?: ReactNode; close: () => void }) {
	const navigate = useNavigate();
	const [file, setFile] = useState<File | null>(null);
	const [seen, setSeen] = useState<TakenEdition | null>(null);
	const [issues, setIssues] = useState<readonly Issue[] | null>(null);
	const [busy, setBusy] = useState(false);
	const send = async (chosen: File, step: "preview" | "take"): Promise<TakenEdition | null> => {
		setBusy(true);
		const result = await upload(
			`/libraries/taken${step === "preview" ? "?preview=1" : ""}`,
			chosen,
			() => undefined,
			new AbortController().signal,
		);
		setBusy(false);
		setIssues(result.ok ? null : result.issues);
		return result.ok ? (result.value as TakenEdition) : null;
	};
	const choose = async (chosen: File | undefined): Promise<void> => {
		if (chosen === undefined) return;
		setFile(chosen);
		setSeen(await send(chosen, "preview"));
	};
	const take = async (): Promise<void> => {
		if (file === null) return;
		const done = await send(file, "take");
		if (done === null) return;
		await refreshAll();
		showToast({ tone: "plain", text: `Edition ${done.to} of ${done.name} is here.` });
		close();
		void navigate(`/libraries/${done.libraryId}`);
	};
	return (
		<Dialog title="Take an edition in" close={close} wide>
			{above}
			<label className="block mt-2.5">
				<span className="block mb-0.75 font-semibold">File of the edition</span>
				<input type="file" accept=".json" onChange={(e) => void choose(e.target.files?.[0])} />
			</label>
			{issues !== null && (
				<p role="alert" className="text-wrong mt-2.5">
					{sentences(issues)}
				</p>
			)}
			{seen !== null && (
				<>
					<p className="mt-3">
						<b>
							{seen.name}, {seen.from === 0 ? `edition ${seen.to}` : `edition ${seen.from} → ${seen.to}`}
						</b>
						: {counted(seen.changes.length, "material")} {seen.from === 0 ? "come in" : "change"}
						{seen.same > 0 && `, ${seen.same} stay as they are`}. Your own materials are not touched.
					</p>
					<ChangeList changes={seen.changes} />
					<button type="button" className="btn btn-primary mt-3" disabled={busy} onClick={take}>
						Take edition {seen.to} in
					</button>
				</>
			)}
		</Dialog>
	);
}
