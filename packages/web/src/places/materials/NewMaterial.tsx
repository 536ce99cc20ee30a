import type { LibraryView } from "@alvek/contract";
import { describeIssue } from "@alvek/core/result";
import { yupResolver } from "@hookform/resolvers/yup";
import { useEffect } from "react";
import { useForm } from "react-hook-form";
import { useNavigate } from "react-router";
import * as yup from "yup";
import { newId } from "../../api/client";
import { mutate } from "../../api/mutate";
import { useRoute } from "../../api/queries";
import { AlikeNames } from "../../shared/Alike";

const schema = yup.object({
	name: yup.string().trim().required("Give it a name; nothing else is compulsory."),
	group: yup.string().default(""),
	as: yup
		.string()
		.oneOf(["similar", "variant"] as const)
		.default("similar"),
});

/** In the place of the brief: blank, or from a similar one whose values all come carried over. */
export function NewMaterial({ from, library, close }: { from: string; library: LibraryView; close: () => void }) {
	const navigate = useNavigate();
	const similar = from !== "blank";
	const base = useRoute("getSheet", { id: from }, { enabled: similar });
	const form = useForm({
		resolver: yupResolver(schema),
		defaultValues: { name: "", group: "", as: "similar" as "similar" | "variant" },
	});
	const { errors, isSubmitting } = form.formState;
	const { setFocus } = form;
	useEffect(() => setFocus("name"), [setFocus]);
	const baseRow = similar ? base.data?.row : undefined;
	const submit = form.handleSubmit(async ({ name, group, as }) => {
		const id = newId();
		const result = await mutate("createMaterial", {
			id,
			libraryId: library.id,
			name,
			group: group !== "" ? group : (baseRow?.group ?? ""),
			...(similar ? { from, as } : {}),
		});
		if (!result.ok) return form.setError("name", { message: result.issues.map(describeIssue).join(" ") });
		void navigate(`/materials/${id}`);
	});
	const count = Object.keys(baseRow?.document.values ?? {}).length;
	return (
		<aside aria-label="New material" className="w-74 shrink-0 bg-paper px-4 py-3.5 overflow-y-auto max-md:w-full">
			<h2 className="text-xl font-bold mb-1">New material</h2>
			<p className="text-ink2 mb-3.5">
				{similar ? (
					<>
						Begins from <b>{baseRow?.name ?? "…"}</b> and its {count} values.
					</>
				) : (
					"Begins blank. Only what a use needs has to be filled in."
				)}
			</p>
			<form
				onSubmit={submit}
				noValidate
				onKeyDown={(e) => {
					if (e.key !== "Escape" || e.defaultPrevented) return;
					close();
					// back to where one was before the form
					document.querySelector<HTMLElement>("[data-content]")?.focus();
				}}
			>
				{similar && (
					<fieldset className="mb-3">
						<legend className="font-semibold mb-0.75">It becomes</legend>
						<label className="flex gap-2 mb-1">
							<input type="radio" value="similar" {...form.register("as")} />
							<span>
								a similar one: values come along, each <span className="carried">carried over</span> until you confirm or replace
								it
							</span>
						</label>
						<label className="flex gap-2">
							<input type="radio" value="variant" disabled={baseRow?.revision === 0} {...form.register("as")} />
							<span>
								a variant (a heat, a temper, a supplier, a cautious one): values follow{" "}
								{baseRow?.revision === 0
									? "the base once that is published"
									: `revision ${baseRow?.revision ?? "…"} until you override them`}
							</span>
						</label>
					</fieldset>
				)}
				<label className="block mb-1">
					<span className="font-semibold">Name</span>
					<input
						className="field mt-0.75"
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
				<AlikeNames name={form.watch("name")} />
				<label className="block mt-2 mb-3">
					<span className="font-semibold">Group</span>
					<input
						className="field mt-0.75"
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
				<p className="caption mb-3.5">
					Goes to <b className="text-ink">{library.name}</b> as your draft; nobody else sees it before you publish.
				</p>
				<div className="flex gap-2">
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
