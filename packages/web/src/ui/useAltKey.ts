import { useEffect, useState } from "react";

/** Is Alt held down? Lets go when the window loses the keyboard. */
export function useAltKey(): boolean {
	const [held, setHeld] = useState(false);
	useEffect(() => {
		const onKey = (e: KeyboardEvent): void => {
			if (e.key !== "Alt") return;
			// else some browsers open their menu
			e.preventDefault();
			setHeld(e.type === "keydown");
		};
		const release = (): void => setHeld(false);
		window.addEventListener("keydown", onKey);
		window.addEventListener("keyup", onKey);
		window.addEventListener("blur", release);
		return () => {
			window.removeEventListener("keydown", onKey);
			window.removeEventListener("keyup", onKey);
			window.removeEventListener("blur", release);
		};
	}, []);
	return held;
}
