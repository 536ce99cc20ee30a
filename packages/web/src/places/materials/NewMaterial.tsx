import type { LibraryView } from "@alvek/contract";
import { describeIssue } from "@alvek/core/result";
import { yupResolver } from "@hookform/resolvers/yup";
import { useEffect } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import * as yup from "yup";
import { call, newId } from "../../api/client";
import { refreshAll, useRoute } from "../../api/queries";

const schema = yup.object({
	name: yup.string().trim().required("Give it a name; nothing else is compulsory."),
	group: yup.string().default(""),
});

/** In the place of the brief: blank, or from a similar one whose values all come carried over. */
export function NewMaterial({ from, library, close }: { from: string; library: LibraryView; close: () => void }) {
	const navigate = useNavigate();
	const similar = from !== "blank";
	const base = useRoute("getSheet", { id: from }, { enabled: similar });
	const form = useForm({ resolver: yupResolver(schema), defaultValues: { name: "", group: "" } });
	const { errors, isSubmitting } = form.formState;
	const { setFocus } = form;
	useEffect(() => setFocus("name"), [setFocus]);
	const baseRow = similar ? base.data?.row : undefined;
	const submit = form.handleSubmit(async ({ name, group }) => {
		const id = newId();
		const result = await call("createMaterial", {
			id,
			libraryId: library.id,
			name,
			group: group !== "" ? group : (baseRow?.group ?? ""),
			...(similar ? { from } : {}),
		});
		if (!result.ok) return form.setError("name", { message: result.issues.map(describeIssue).join(" ") });
		await refreshAll();
		navigate(`/materials/${id}`);
	});
	const count = Object.keys(baseRow?.document.values ?? {}).length;
	return (
		<aside aria-label="New material" className="w-[296px] shrink-0 bg-paper px-[16px] py-[14px] overflow-y-auto">
			<h2 className="text-[17px] font-bold mb-[4px]">New material</h2>
			<p className="text-ink2 mb-[14px]">
				{similar ? (
					<>
						As in <b>{baseRow?.name ?? "…"}</b>: {count} values come along, each marked{" "}
						<span className="carried">carried over</span> until you confirm or replace it.
					</>
				) : (
					"Begins blank. Only what a use needs has to be filled in."
				)}
			</p>
			<form onSubmit={submit} noValidate>
				<label className="block mb-[4px]">
					<span className="font-semibold">Name</span>
					<input
						className="field mt-[3px]"
						{...form.register("name")}
						aria-invalid={errors.name !== undefined}
						aria-describedby="new-name-error"
					/>
				</label>
				{errors.name && (
					<span id="new-name-error" role="alert" className="block text-wrong">
						{errors.name.message}
					</span>
				)}
				<label className="block mt-[8px] mb-[12px]">
					<span className="font-semibold">Group</span>
					<input
						className="field mt-[3px]"
						list="new-groups"
						placeholder={baseRow?.group || "for example Metals / Bronze"}
						{...form.register("group")}
					/>
					<datalist id="new-groups">
						{library.groups.map((g) => (
							<option key={g} value={g} />
						))}
					</datalist>
				</label>
				<p className="caption mb-[14px]">
					Goes to <b className="text-ink">{library.name}</b> as your draft; nobody else sees it before you publish.
				</p>
				<div className="flex gap-[8px]">
					<button type="submit" className="btn btn-primary" disabled={isSubmitting}>
						Begin the sheet
					</button>
					<button type="button" className="btn btn-ghost" onClick={close}>
						Leave it
					</button>
				</div>
			</form>
		</aside>
	);
}
