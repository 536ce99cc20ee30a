import type { Undoable } from "@alvek/contract";
import { undoOf } from "@alvek/core/event";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, type Inverse, inWrite, recordEvent } from "../db/write";
import type { Finding } from "../materials/finding";
import { applyInverse } from "./apply";
import { authoriseUndo, type StoredEvent, touchedMaterials } from "./authorise";

/**
 * The inverse of one event. It is itself an event with an inverse, so undo can be undone; when something newer stands
 * in the way it says so and changes nothing. It takes the right, the lock and the second person that the step would
 * take now.
 */
export function undo(ctx: Context, finding: Finding, input: { event: number }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql, after) => {
		const event = await sql.one<StoredEvent>(
			"SELECT seq, actor, action, subject_kind, subject_id, inverse, undone_by FROM event WHERE seq = $seq",
			{ seq: input.event },
		);
		if (event === null || event.inverse === null) return fail({ code: "not-found", path: "This step" });
		const inverse = JSON.parse(event.inverse) as Inverse;
		const allowed = await authoriseUndo(ctx, sql, event, inverse);
		if (!allowed.ok) return allowed;
		if (event.undone_by !== null) return fail({ code: "newer-change", actual: "it was undone already" });
		const back = await applyInverse(ctx, sql, inverse);
		if (!back.ok) return back;
		const seq = await recordEvent(ctx, sql, {
			action: undoOf(event.action),
			kind: event.subject_kind,
			subject: event.subject_id,
			changeset: { undoes: event.seq },
			inverse: back.value,
		});
		await sql.run("UPDATE event SET undone_by = $seq WHERE seq = $event", { seq, event: event.seq });
		if (inverse.kind === "groups") after(() => finding.reloadGroups());
		after(() => finding.refresh(touchedMaterials(event, inverse)));
		return ok({ event: seq, value: null });
	});
}
