import type { MaterialRow, PartView, ProjectView, Sheet } from "@alvek/contract";
import { difference } from "@alvek/core/material";
import type { Issue } from "@alvek/core/result";
import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import { newId } from "../../api/client";
import { useRoute } from "../../api/queries";
import { runMutation } from "../../api/runMutation";
import { AlikeNames } from "../../shared/Alike";
import { PickMaterial } from "../../shared/PickMaterial";
import { Choose, Field, FormDialog } from "../../ui/Form";
import { counted } from "../../ui/words";

/** The material of the chosen parts: its sheet, what stands here where the sheet is not open, and the ways of a project's own one. */
export function OwnMaterial({ project, parts, whole }: { project: ProjectView; parts: readonly PartView[]; whole: boolean }) {
	const [promoting, setPromoting] = useState(false);
	const [givingUp, setGivingUp] = useState(false);
	const materials = new Set(parts.map((p) => p.assignment?.materialId ?? ""));
	const a = parts[0]?.assignment;
	if (whole || a == null || materials.size !== 1) return null;
	const change = async (): Promise<void> => {
		const material = newId();
		const made = await runMutation("createLocal", { id: project.id, material, from: a.materialId });
		if (made === null) return;
		await runMutation(
			"assign",
			{ id: project.id, parts: parts.map((p) => p.id), materialId: material },
			`${a.material}: changed here only`,
		);
	};
	return (
		<div className="mt-3.5 pt-2 border-t border-line2">
			<p>
				<b>{a.material}</b>{" "}
				{a.own ? (
					<span className="caption">lives in this project only</span>
				) : (
					!a.draft && <span className="caption">rev {a.revision}</span>
				)}
			</p>
			<div className="flex flex-wrap gap-1.5 mt-1.5">
				{a.mayOpen ? (
					<Link className="btn btn-small" to={`/materials/${a.materialId}`}>
						Open sheet
					</Link>
				) : (
					<Link
						className="btn btn-small"
						to={`/parts/${project.id}/materials/${a.materialId}`}
						title="Its library is not open to you; what stands here is"
					>
						What stands here
					</Link>
				)}
				{project.mayEdit && !a.own && !a.draft && a.mayOpen && (
					<button type="button" className="btn btn-ghost btn-small" onClick={change}>
						Change it here only
					</button>
				)}
				{project.mayEdit && a.own && !a.draft && (
					<>
						<button type="button" className="btn btn-ghost btn-small" onClick={() => setPromoting(true)}>
							Into a library…
						</button>
						<button type="button" className="btn btn-ghost btn-small" onClick={() => setGivingUp(true)}>
							Give it up for…
						</button>
					</>
				)}
				{project.mayEdit && a.isDefault && (
					<button
						type="button"
						className="btn btn-ghost btn-small"
						onClick={() => runMutation("confirmDefault", { id: project.id, parts: parts.map((p) => p.id) }, "Confirmed")}
					>
						Confirm the default
					</button>
				)}
			</div>
			{promoting && <Promote project={project} material={a.materialId} name={a.material} close={() => setPromoting(false)} />}
			{givingUp && <GiveUp project={project} material={a.materialId} name={a.material} close={() => setGivingUp(false)} />}
		</div>
	);
}

type Asked = { project: ProjectView; material: string; name: string; close: () => void };

/** A draft in a library, which the parts try from then on: of the material it was changed from, or an entry of its own. */
function Promote({ project, material, name, close }: Asked) {
	const navigate = useNavigate();
	const sheet = useRoute("getSheet", { id: material });
	const libraries = useRoute("listLibraries", {});
	const targets = libraries.data?.filter((l) => l.mayEdit) ?? [];
	const base = sheet.data?.base?.kind === "local" && sheet.data.base.document !== null ? sheet.data.base : null;
	const [as, setAs] = useState<"revision" | "entry" | null>(null);
	const changes = changesSince(sheet.data);
	const chosen = base === null || changes === 0 ? "entry" : (as ?? "revision");
	const [target, setTarget] = useState("");
	const [called, setCalled] = useState(name.replace(/, here( \d+)?$/, ""));
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		const back = { id: project.id, material };
		const made = newId();
		const done =
			chosen === "revision"
				? await runMutation("returnLocal", back, `${base?.name} has a draft with what was changed here`, setError)
				: await runMutation(
						"promoteLocal",
						{ ...back, libraryId: target, newId: made, name: called },
						`${called.trim()} is a draft in the library, and its parts try it`,
						setError,
					);
		if (done !== null) void navigate(`/materials/${done.value.id}`);
	};
	return (
		<FormDialog
			title={`${name} into a library`}
			act="Make the draft"
			ready={sheet.data !== undefined && (chosen === "revision" || (target !== "" && called.trim() !== ""))}
			submit={submit}
			close={close}
			error={error}
		>
			{base !== null && (
				<fieldset>
					<legend className="font-semibold mb-0.75">It goes back</legend>
					<Way chosen={chosen === "revision"} choose={() => setAs("revision")} closed={changes === 0}>
						as the next revision of <b>{base.name}</b>
						{changes === 0 ? "; nothing was changed here yet" : `, with ${counted(changes, "change")} made here`}
						{base.headRevision > base.revision &&
							`; revision ${base.headRevision} is out since, and what both changed is asked when it is published`}
					</Way>
					<Way chosen={chosen === "entry"} choose={() => setAs("entry")}>
						as an entry of its own
					</Way>
				</fieldset>
			)}
			{chosen === "entry" && (
				<>
					<Choose label="Library" value={target} change={setTarget} none="choose a library" options={targets} />
					<Field label="Name there" value={called} change={setCalled} />
					<AlikeNames name={called} material={material} says="If it is the same, give the own one up for it instead." />
				</>
			)}
			<p className="caption">Its parts try the draft at once, and move on to the revision when it is published.</p>
		</FormDialog>
	);
}

/** Places in which a local change differs from what it began from. */
const changesSince = (sheet: Sheet | undefined): number =>
	sheet?.base?.document == null ? 0 : difference(sheet.base.document, sheet.row.document).length;

function Way(props: { chosen: boolean; choose: () => void; closed?: boolean; children: ReactNode }) {
	const { chosen, choose, closed = false, children } = props;
	return (
		<label className={`flex gap-2 mb-1 ${closed ? "text-ink2" : ""}`}>
			<input type="radio" name="way" checked={chosen} disabled={closed} onChange={choose} />
			<span>{children}</span>
		</label>
	);
}

function GiveUp({ project, material, name, close }: Asked) {
	const [to, setTo] = useState<MaterialRow | null>(null);
	const [error, setError] = useState<readonly Issue[] | null>(null);
	const submit = async (): Promise<void> => {
		if (to === null) return;
		const input = { id: project.id, material, to: to.id };
		if ((await runMutation("replaceLocalMaterial", input, `${name} given up for ${to.name}`, setError)) !== null) close();
	};
	return (
		<FormDialog title={`Give ${name} up`} act="Give it up" ready={to !== null} submit={submit} close={close} error={error}>
			<p className="text-ink2">All its parts go to the newest revision of the one that you choose.</p>
			<PickMaterial label="Find" legend="Material that takes its place" chosen={to?.id ?? null} choose={setTo} />
		</FormDialog>
	);
}
