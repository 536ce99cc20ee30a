import type { EditionComparison, LibraryDetail } from "@alvek/contract";
import { Link, useParams, useSearchParams } from "react-router";
import { useRoute } from "../../api/queries";
import { Failure, Loading } from "../../ui/states";
import { counted } from "../../ui/words";
import { ChangeList } from "./ChangeList";

/** Two states of a library, material by material. */
export function ComparePage() {
	const { id = "" } = useParams();
	const [params, setParams] = useSearchParams();
	const library = useRoute("getLibrary", { id });
	const [from, to] = [params.get("from") ?? "0", params.get("to") ?? "0"];
	const comparison = useRoute("compareEditions", { id, from, to });
	if (library.isError) return <Failure error={library.error} />;
	if (comparison.isError) return <Failure error={comparison.error} retry={() => comparison.refetch()} />;
	if (library.data === undefined || comparison.data === undefined) return <Loading what="The comparison" />;
	const choose = (which: "from" | "to", value: string): void =>
		setParams((now) => {
			now.set(which, value);
			return now;
		});
	return (
		<section aria-label="Editions compared" className="flex-1 min-w-0 bg-card overflow-y-auto">
			<div className="max-w-240 px-6 py-4">
				<p className="caption">
					<Link className="quiet-link" to={`/libraries/${id}`}>
						{library.data.name}
					</Link>
				</p>
				<h1 className="text-3xl! leading-6.75! flex items-center gap-2.5 flex-wrap">
					<State library={library.data} label="From" value={from} choose={(v) => choose("from", v)} />
					<span aria-hidden>→</span>
					<State library={library.data} label="To" value={to} choose={(v) => choose("to", v)} />
				</h1>
				<Result comparison={comparison.data} />
			</div>
		</section>
	);
}

function State({
	library,
	label,
	value,
	choose,
}: {
	library: LibraryDetail;
	label: string;
	value: string;
	choose: (value: string) => void;
}) {
	return (
		<select
			className="bg-transparent font-bold underline decoration-line underline-offset-4"
			aria-label={label}
			value={value}
			onChange={(e) => choose(e.target.value)}
		>
			<option value="0" className="text-base">
				as it is now
			</option>
			{library.editions.map((e) => (
				<option key={e.no} value={String(e.no)} className="text-base">
					edition {e.no}
				</option>
			))}
		</select>
	);
}

function Result({ comparison }: { comparison: EditionComparison }) {
	const { changes, same } = comparison;
	const count = (kind: string): number => changes.filter((c) => c.kind === kind).length;
	const words = [
		[count("changed"), "changed"],
		[count("added"), "added"],
		[count("gone"), "gone"],
		[count("row"), "with another name, group or code"],
	].filter(([n]) => n !== 0);
	return (
		<>
			<p className="mt-2 text-ink2">
				{changes.length === 0 ? "Nothing differs." : `${words.map(([n, w]) => `${n} ${w}`).join(", ")}.`}{" "}
				{counted(same, "material")} the same.
			</p>
			{changes.length > 0 && <ChangeList changes={changes} />}
		</>
	);
}
