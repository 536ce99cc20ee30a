import { X } from "lucide-react";
import { type FormEvent, useState } from "react";
import { Link, useLocation } from "react-router";
import { newId } from "../../api/client";
import { mutate } from "../../api/mutate";
import { useRoute } from "../../api/queries";
import { showIssues } from "../../api/refusals";
import { showToast } from "../../stores/toasts";
import { type GridView, writeChange } from "./view";

export function SavedViews() {
	const views = useRoute("listViews", {});
	const { search } = useLocation();
	const remove = async (id: string, name: string): Promise<void> => {
		const before = views.data?.find((v) => v.id === id);
		const result = await mutate("removeView", { id });
		if (!result.ok) return showIssues(result.issues);
		const restore = async (): Promise<void> => {
			if (before !== undefined) await mutate("saveView", { id, name, address: before.address, shared: before.shared });
		};
		showToast({ tone: "plain", text: `The view “${name}” is gone.`, action: { label: "Undo", run: () => void restore() } });
	};
	if (views.data === undefined) return null;
	if (views.data.length === 0)
		return <p className="caption mb-2.5">No view is saved yet. A view keeps filters, strips, columns and their order.</p>;
	return (
		<ul className="mb-3" aria-label="Saved views">
			{views.data.map((v) => (
				<li key={v.id} className="flex items-center gap-1.5 py-0.5">
					<Link
						to={`/materials?${v.address}`}
						className={`truncate hover:underline underline-offset-3 ${search === `?${v.address}` ? "font-bold" : ""}`}
						title={v.name}
					>
						{v.name}
					</Link>
					<span className="caption ml-auto whitespace-nowrap">
						{v.shared ? (v.mine ? "for everyone" : `by ${v.by}`) : "mine"}
					</span>
					{v.mine && (
						<button
							type="button"
							className="btn btn-ghost btn-small px-1!"
							aria-label={`Delete the view ${v.name}`}
							onClick={() => remove(v.id, v.name)}
						>
							<X size={13} aria-hidden />
						</button>
					)}
				</li>
			))}
		</ul>
	);
}

export function SaveForm({ view }: { view: GridView }) {
	const [shared, setShared] = useState(false);
	const [error, setError] = useState<string | null>(null);
	const save = async (e: FormEvent<HTMLFormElement>): Promise<void> => {
		e.preventDefault();
		const input = e.currentTarget.elements.namedItem("view-name") as HTMLInputElement;
		const name = input.value.trim();
		if (name === "") return setError("Give the view a name.");
		setError(null);
		// what is in focus or half typed belongs to the moment, not to the view
		const entries = Object.entries(writeChange({ ...view, row: null, create: null, editing: false }));
		const address = new URLSearchParams(entries.flatMap(([k, v]) => (v === null ? [] : [[k, v]]))).toString();
		const result = await mutate("saveView", { id: newId(), name, address, shared });
		if (!result.ok) return showIssues(result.issues);
		input.value = "";
		showToast({ tone: "plain", text: `The view “${name}” is saved${shared ? " for everyone" : ""}.` });
	};
	return (
		<form onSubmit={save}>
			<label className="block">
				<span className="caption">Name of this view</span>
				<input name="view-name" className="field" aria-invalid={error !== null} maxLength={80} />
			</label>
			{error !== null && (
				<p role="alert" className="text-wrong text-sm">
					{error}
				</p>
			)}
			<div className="flex items-center mt-2">
				<label className="flex items-center gap-2">
					<input
						type="checkbox"
						className="checkbox checkbox-primary"
						checked={shared}
						onChange={(e) => setShared(e.target.checked)}
					/>
					for everyone
				</label>
				<button type="submit" className="btn btn-small ml-auto">
					Save
				</button>
			</div>
		</form>
	);
}
