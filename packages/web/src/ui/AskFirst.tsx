import { useQuestion } from "../stores/question";
import { Dialog } from "./Dialog";

/** The one place where questions of `askFirst` are shown. */
export function AskFirst() {
	const open = useQuestion((s) => s.open);
	if (open === null) return null;
	return (
		<Dialog title={open.title} close={() => open.answer(false)}>
			<p>{open.text}</p>
			<div className="flex gap-2 mt-3.5">
				<button type="button" className="btn btn-primary" onClick={() => open.answer(true)}>
					{open.act}
				</button>
				<button type="button" className="btn" onClick={() => open.answer(false)}>
					Leave it
				</button>
			</div>
		</Dialog>
	);
}
