// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { afterEach, describe, expect, it } from "vitest";
import { Leavable, leaveOnEscape } from "./Leavable";

function Unfolding() {
	const [open, setOpen] = useState(false);
	const [inner, setInner] = useState(true);
	return (
		<div>
			<button type="button" aria-expanded={open} onClick={() => setOpen(!open)}>
				more
			</button>
			{open && (
				<Leavable leave={() => setOpen(false)}>
					<input aria-label="field" />
					{inner && (
						<form onKeyDown={leaveOnEscape(() => setInner(false))}>
							<input aria-label="inner" />
						</form>
					)}
				</Leavable>
			)}
		</div>
	);
}

describe("Escape", () => {
	afterEach(cleanup);

	it("leaves one thing at a time, and the focus goes back to what opened it", async () => {
		render(<Unfolding />);
		fireEvent.click(screen.getByText("more"));
		fireEvent.keyDown(screen.getByLabelText("inner"), { key: "Escape" });
		expect([screen.queryByLabelText("inner"), screen.queryByLabelText("field") !== null]).toEqual([null, true]);
		fireEvent.keyDown(screen.getByLabelText("field"), { key: "a" });
		expect(screen.queryByLabelText("field")).not.toBeNull();
		fireEvent.keyDown(screen.getByLabelText("field"), { key: "Escape" });
		expect(screen.queryByLabelText("field")).toBeNull();
		await waitFor(() => expect(document.activeElement).toBe(screen.getByText("more")));
	});
});
