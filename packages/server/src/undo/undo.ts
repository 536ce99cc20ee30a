import type { Undoable } from "@alvek/contract";
import { undoOf } from "@alvek/core/event";
import { fail, ok, type Result } from "@alvek/core/result";
import { type Context, inWrite } from "../db";
import { eventBySeq, type Inverse, markUndone, recordEvent } from "../repo";
import { applyInverse } from "./apply";
import { authoriseUndo } from "./authorise";

/**
 * The inverse of one event. It is itself an event with an inverse, so undo can be undone; when something newer stands
 * in the way it says so and changes nothing. It takes the right, the lock and the second person that the step would
 * take now.
 */
export function undo(ctx: Context, input: { event: number }): Promise<Result<Undoable<null>>> {
	return inWrite(ctx, async (sql) => {
		const event = await eventBySeq(sql, input.event);
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
		await markUndone(sql, event.seq, seq);
		return ok({ event: seq, value: null });
	});
}
