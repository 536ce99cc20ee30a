import type { Look } from "@alvek/core/material";
import { useEffect, useRef, useState } from "react";
import { BlockView } from "./block";

/** The look on the stepped block. */
export function Block({ look, colour, materialId }: { look: Look; colour: string; materialId: string }) {
	const host = useRef<HTMLDivElement>(null);
	const view = useRef<BlockView | null>(null);
	const [failed, setFailed] = useState(false);
	useEffect(() => {
		if (host.current === null) return;
		try {
			view.current = new BlockView(host.current);
		} catch {
			setFailed(true);
		}
		const observer = new ResizeObserver(() => view.current?.resize());
		observer.observe(host.current);
		return () => {
			observer.disconnect();
			view.current?.dispose();
			view.current = null;
		};
	}, []);
	useEffect(() => view.current?.show(look, colour, materialId), [look, colour, materialId]);
	if (failed) return <p className="caption p-3">This browser draws no 3D; the look is kept all the same.</p>;
	return <div ref={host} role="img" aria-label="Preview of the look on a stepped block" className="w-full h-full" />;
}
