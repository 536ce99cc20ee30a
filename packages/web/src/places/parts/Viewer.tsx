import type { PartView, ProjectView } from "@alvek/contract";
import { type MeshSolid, unpackMeshes } from "@alvek/contract";
import { PLAIN_LOOK } from "@alvek/core/material";
import { useDroppable } from "@dnd-kit/core";
import { useQueries } from "@tanstack/react-query";
import { Maximize } from "lucide-react";
import { type KeyboardEvent, type MutableRefObject, type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { bytesOf, IssueError } from "../../api/client";
import { usePreferences } from "../../stores/preferences";
import { type Paint, PartsScene, type SceneColours, type Triad } from "./scene";

const THEME_COLOURS: Readonly<Record<"day" | "night", SceneColours>> = {
	day: { ink: "#1c2b33", accent: "#0b6b66", wrong: "#a4322a" },
	night: { ink: "#e4e8e6", accent: "#63c5b6", wrong: "#ee8f80" },
};

type Props = {
	project: ProjectView;
	selected: readonly string[];
	onSelect: (parts: readonly string[], add?: boolean) => void;
	/** Filled with the question which part lies under a point. */
	partAt: MutableRefObject<(x: number, y: number) => string | null>;
};

/** The 3D view; loaded only where parts are shown. */
export function Viewer({ project, selected, onSelect, partAt }: Props) {
	const host = useRef<HTMLDivElement>(null);
	const scene = useRef<PartsScene | null>(null);
	const triad = useRef<SVGSVGElement>(null);
	const select = useRef(onSelect);
	select.current = onSelect;
	const theme = usePreferences((s) => s.theme);
	const [failed, setFailed] = useState<string | null>(null);
	const { setNodeRef, isOver } = useDroppable({ id: "view" });
	const hashes = useMemo(() => [...new Set(project.parts.map((p) => p.geometryHash))], [project.parts]);
	const meshes = useQueries({
		queries: hashes.map((hash) => ({
			queryKey: ["mesh", hash],
			queryFn: () => loadMeshes(project.id, hash),
			staleTime: Number.POSITIVE_INFINITY,
			gcTime: 60_000,
		})),
	});
	const [params] = useSearchParams();
	const colourBy: ColourBy = COLOURINGS.find((c) => c.id === params.get("colour"))?.id ?? "material";
	const ready = meshes.every((m) => m.data !== undefined);
	// what is drawn changes with the geometry, not with every assignment
	const shape = ready ? hashes.join() + project.occurrences.length : "";

	useEffect(() => {
		if (host.current === null) return;
		try {
			const onPick = (part: string | null, add: boolean): void =>
				select.current(part === null ? [] : [part], add && part !== null);
			scene.current = new PartsScene(host.current, onPick, (axes) => drawTriad(triad.current, axes));
		} catch {
			setFailed("This browser shows no 3D graphics. The table and all figures work without it.");
			return;
		}
		return () => {
			scene.current?.dispose();
			scene.current = null;
		};
	}, []);

	// biome-ignore lint/correctness/useExhaustiveDependencies: rebuilt for new geometry only
	useEffect(() => {
		if (shape !== "") scene.current?.setProject(project, new Map(hashes.map((h, i) => [h, meshes[i]?.data ?? []])));
	}, [shape]);

	// biome-ignore lint/correctness/useExhaustiveDependencies: the shape stands for the pieces to paint
	useEffect(() => {
		const paints = new Map(project.parts.map((p) => [p.id, paintOf(p, colourBy)]));
		scene.current?.paint(paints, new Set(selected), THEME_COLOURS[theme]);
	}, [project.parts, selected, theme, shape, colourBy]);

	useEffect(() => {
		partAt.current = (x, y) => scene.current?.partAt(x, y) ?? null;
	}, [partAt]);

	const bare = project.parts.filter((p) => p.assignment === null);
	return (
		<section
			ref={setNodeRef}
			aria-label="3D view"
			className={`relative flex-1 min-w-0 bg-paper ${isOver ? "outline-2 -outline-offset-2 outline-primary" : ""}`}
		>
			<div
				ref={host}
				role="application"
				aria-label="3D view of the parts: drag to turn, right drag to move, wheel to zoom; arrows, plus, minus and F by keyboard"
				// biome-ignore lint/a11y/noNoninteractiveTabindex: the view is turned by the keyboard
				tabIndex={0}
				className="absolute inset-0 -outline-offset-2"
				data-ready={ready && shape !== ""}
				onKeyDown={(e) => turnBy(e, scene.current)}
			/>
			<Tools colourBy={colourBy} onFit={() => scene.current?.fit()} />
			<TriadLines lines={triad} />
			{colourBy === "density" && (
				<p className="absolute left-3.5 bottom-8 caption pointer-events-none">pale is light, deep is heavy</p>
			)}
			{bare.length > 0 && bare.length < project.parts.length && (
				<p className="absolute left-3.5 bottom-3 text-sm text-wrong pointer-events-none">
					dashed: no material ({bare.length === 1 ? bare[0]?.name : `${bare.length} rows`})
				</p>
			)}
			{!ready && <p className="absolute left-3.5 bottom-3 caption">The shapes are on their way.</p>}
			{failed && <p className="absolute inset-x-6 top-15 text-ink2">{failed}</p>}
		</section>
	);
}

/** Turns, zooms and fits by the keyboard. */
function turnBy(e: KeyboardEvent, scene: PartsScene | null): void {
	const turns: Record<string, [number, number, number]> = {
		ArrowLeft: [-10, 0, 1],
		ArrowRight: [10, 0, 1],
		ArrowUp: [0, 10, 1],
		ArrowDown: [0, -10, 1],
		"+": [0, 0, 1.15],
		"-": [0, 0, 1 / 1.15],
	};
	const turn = turns[e.key];
	if (turn !== undefined) scene?.nudge(...turn);
	else if (e.key === "f") scene?.fit();
	else return;
	e.preventDefault();
}

function Tools({ colourBy, onFit }: { colourBy: ColourBy; onFit: () => void }) {
	const [params, setParams] = useSearchParams();
	return (
		<div className="absolute left-3 top-2.5 flex gap-1.5">
			<select
				aria-label="Colour of the parts"
				className="field w-auto! font-semibold"
				value={colourBy}
				onChange={(e) => {
					const next = new URLSearchParams(params);
					if (e.target.value === "material") next.delete("colour");
					else next.set("colour", e.target.value);
					setParams(next, { replace: true });
				}}
			>
				{COLOURINGS.map((c) => (
					<option key={c.id} value={c.id}>
						{c.name}
					</option>
				))}
			</select>
			<button
				type="button"
				className="btn btn-icon"
				aria-label="Fit all parts in view"
				title="Fit all parts in view (F)"
				onClick={onFit}
			>
				<Maximize size={15} aria-hidden />
			</button>
		</div>
	);
}

/** Axes of the view, drawn with every frame. */
function TriadLines({ lines }: { lines: RefObject<SVGSVGElement | null> }) {
	return (
		<svg
			ref={lines}
			width="72"
			height="72"
			viewBox="-36 -36 72 72"
			aria-hidden="true"
			className="absolute right-2.5 bottom-2 pointer-events-none text-ink2"
		>
			{["x", "y", "z"].map((axis) => (
				<g key={axis}>
					<line stroke="currentColor" strokeWidth="1.3" />
					<text className="fill-ink2 text-xs" textAnchor="middle" dominantBaseline="middle">
						{axis}
					</text>
				</g>
			))}
		</svg>
	);
}

const COLOURINGS = [
	{ id: "material", name: "Look of the material" },
	{ id: "density", name: "Colour by density" },
	{ id: "file", name: "Colour as in the file" },
] as const;
type ColourBy = (typeof COLOURINGS)[number]["id"];

/** What a part is drawn in; null: no material, so an outline, whatever the colouring. Only by material it wears its look. */
function paintOf(part: PartView, by: ColourBy): Paint | null {
	const { assignment } = part;
	if (assignment === null) return null;
	const { colour, look, materialId } = assignment;
	if (by === "material") return { colour, look, materialId };
	const tone = by === "file" ? (part.fileColour ?? colour) : densityColour(assignment.density?.working);
	return tone === null ? null : { colour: tone, look: PLAIN_LOOK, materialId };
}

function densityColour(density: number | undefined): string | null {
	if (density === undefined) return null;
	// light to heavy from 0.03 to 20 g/cm3 on a logarithmic scale, pale to deep verdigris
	const share = Math.min(Math.max(Math.log(density / 30) / Math.log(20000 / 30), 0), 1);
	return `hsl(177, ${Math.round(18 + 50 * share)}%, ${Math.round(88 - 66 * share)}%)`;
}

/** Written straight into the picture: it follows every frame of a turn. */
function drawTriad(svg: SVGSVGElement | null, axes: Triad): void {
	svg?.querySelectorAll("g").forEach((group, i) => {
		const [x = 0, y = 0] = axes[i] ?? [];
		group.querySelector("line")?.setAttribute("x2", String(x * 22));
		group.querySelector("line")?.setAttribute("y2", String(-y * 22));
		group.querySelector("text")?.setAttribute("x", String(x * 30));
		group.querySelector("text")?.setAttribute("y", String(-y * 30));
	});
}

async function loadMeshes(project: string, hash: string): Promise<readonly MeshSolid[]> {
	const bytes = await bytesOf("getMesh", { id: project, hash });
	const meshes = bytes.ok ? unpackMeshes(bytes.value) : bytes;
	if (!meshes.ok) throw new IssueError(meshes.issues);
	return meshes.value;
}
