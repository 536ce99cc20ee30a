import { cleanPaste, PASTE_LIMITS, type Page, readPage } from "@alvek/core/page";
import { describeIssue } from "@alvek/core/result";
import { ArrowLeft } from "lucide-react";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { useKeptText } from "../../../draft/text";
import { Empty } from "../../../ui/states";
import { useSheet } from "../context";
import { Review } from "./Review";

/** From a page: text copied from a web page or a PDF becomes values, each ticked, corrected or dropped by the user. */
export function PastePage() {
	const { sheet, draft } = useSheet();
	const [text, setText] = useState<string | null>(null);
	const page = useMemo(() => (text === null ? null : readPage(text)), [text]);
	if (draft === null)
		return (
			<Empty title="This sheet cannot be changed here.">Open its newest revision, or copy it to a library of your own.</Empty>
		);
	if (page?.ok) {
		return (
			<Review
				// a new paste is a new review
				key={text}
				page={page.value as Page}
				pasted={text ?? ""}
				onAnother={() => setText(null)}
			/>
		);
	}
	return (
		<div className="flex-1 bg-card overflow-y-auto">
			<div className="max-w-180 mx-auto px-5.5 py-4.5">
				<Link to=".." relative="path" className="flex items-center gap-1.5 text-ink2 hover:text-ink mb-2.5">
					<ArrowLeft size={14} aria-hidden /> {sheet.row.name}
				</Link>
				<h1>From a page</h1>
				<p className="text-ink2 mb-3">
					Copy a table or a text from a web page or a PDF and paste it here. Nothing is stored before you take it, and every line
					that is not understood stays in sight.
				</p>
				<PasteBox onText={setText} refused={page !== null && !page.ok ? page.issues.map(describeIssue).join(" ") : null} />
			</div>
		</div>
	);
}

/** A box to paste or type into; a paste is read at once, and one that is too large never enters the page. */
function PasteBox({ onText, refused }: { onText: (text: string) => void; refused: string | null }) {
	const [typed, setTyped] = useKeptText("pasted page", "");
	const [tooLarge, setTooLarge] = useState<string | null>(null);
	const error = tooLarge ?? refused;
	return (
		<form
			onSubmit={(e) => {
				e.preventDefault();
				if (typed.trim() !== "") onText(typed);
			}}
		>
			<textarea
				// biome-ignore lint/a11y/noAutofocus: the whole view asks for a paste
				autoFocus
				className="area font-mono text-sm"
				rows={16}
				aria-label="Text of the page"
				aria-invalid={error !== null}
				value={typed}
				maxLength={PASTE_LIMITS.characters}
				placeholder={"Density\t8.78–8.91 g/cm³\nTensile strength: 260–310 N/mm²\nWärmeleitfähigkeit 62 W/(m·K)"}
				onChange={(e) => setTyped(e.target.value)}
				onPaste={(e) => {
					e.preventDefault();
					const pasted = e.clipboardData.getData("text/plain");
					if (pasted.length > PASTE_LIMITS.characters) {
						return setTooLarge(
							`That is ${pasted.length.toLocaleString("en-GB")} characters; a page may have ${PASTE_LIMITS.characters.toLocaleString("en-GB")}. Copy only the table that you need.`,
						);
					}
					setTooLarge(null);
					const whole = typed.trim() === "" ? pasted : `${typed}\n${pasted}`;
					if (cleanPaste(whole).trim() !== "") onText(whole);
				}}
			/>
			{error !== null && (
				<p role="alert" className="border-l-3 border-wrong bg-wrong-soft px-2.5 py-1.5 my-1.5">
					{error}
				</p>
			)}
			<button type="submit" className="btn mt-2" disabled={typed.trim() === ""}>
				Read it
			</button>
		</form>
	);
}
