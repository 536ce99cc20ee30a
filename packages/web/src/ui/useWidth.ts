import { type RefCallback, useCallback, useRef, useState } from "react";

/** The width of an element in pixels, kept as it changes; 0 before it is there. */
export function useWidth(): readonly [RefCallback<HTMLElement>, number] {
	const [width, setWidth] = useState(0);
	const observer = useRef<ResizeObserver | null>(null);
	const ref = useCallback((element: HTMLElement | null) => {
		observer.current?.disconnect();
		if (element === null) return;
		observer.current = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
		observer.current.observe(element);
	}, []);
	return [ref, width];
}
