import type { StoredFile } from "@alvek/contract";
import { TEXTURES, type Texture } from "@alvek/core/material";
import { ImageUp } from "lucide-react";
import { useRef, useState } from "react";
import { uploadFile } from "../../../api/files";
import { showIssues } from "../../../api/refusals";
import { TEXTURE_WORD } from "../../../ui/look/words";
import { HeldTextures } from "./HeldTextures";
import { Row } from "./Row";

/** Nothing, a computed pattern in its size, or a picture in its size and offset. */
export function TextureRows(props: { texture: Texture | null; materialId: string; onChange: (texture: Texture | null) => void }) {
	const { texture, materialId, onChange } = props;
	const file = useRef<HTMLInputElement>(null);
	const [holding, setHolding] = useState(false);
	const choose = (choice: string): void => {
		if (choice === "none") return onChange(null);
		if (choice === "picture") return file.current?.click();
		if (choice === "held") return setHolding(true);
		const pattern = choice as (typeof TEXTURES)[number];
		const before = texture?.kind === "procedural" ? texture : { size_mm: 20, strength: 0.5 };
		onChange({ kind: "procedural", pattern, size_mm: before.size_mm, strength: before.strength });
	};
	const take = async (picture: File): Promise<void> => {
		const result = await uploadFile(materialId, picture, "picture");
		if (!result.ok) return showIssues(result.issues);
		const { hash, name, pixels } = result.value as StoredFile;
		const width = 40;
		const height = pixels === null ? 40 : Math.max(0.1, Number(((width * pixels[1]) / pixels[0]).toFixed(2)));
		onChange({ kind: "picture", hash, name, size_mm: [width, height], offset_mm: [0, 0] });
	};
	const number = (label: string, value: number, set: (x: number) => void, low = -10_000) => (
		<label className="flex items-center gap-1 caption whitespace-nowrap">
			{label}
			<input
				type="number"
				className="field w-15.5! h-6! text-right"
				key={value}
				defaultValue={value}
				min={low}
				max={10_000}
				step="any"
				onBlur={(e) => {
					const typed = Number(e.target.value);
					if (e.target.value !== "" && typed >= low && typed <= 10_000 && typed !== value) set(typed);
					else e.target.value = String(value);
				}}
			/>
		</label>
	);
	return (
		<>
			<Row label="Texture">
				<select
					aria-label="Texture"
					className="bg-transparent font-semibold h-6.5 -ml-1"
					value={texture === null ? "none" : texture.kind === "picture" ? "picture" : texture.pattern}
					onChange={(e) => choose(e.target.value)}
				>
					<option value="none" className="bg-card">
						none
					</option>
					{TEXTURES.map((t) => (
						<option key={t} value={t} className="bg-card">
							{TEXTURE_WORD[t]}
						</option>
					))}
					<option value="picture" className="bg-card">
						a picture…
					</option>
					<option value="held" className="bg-card">
						one held in a library…
					</option>
				</select>
				{texture?.kind === "procedural" && (
					<span className="ml-auto flex gap-2.5">
						{number("repeats every mm", texture.size_mm, (size_mm) => onChange({ ...texture, size_mm }), 0.1)}
						<label className="flex items-center gap-1 caption">
							strength
							<select
								className="bg-transparent font-semibold text-ink"
								value={texture.strength}
								onChange={(e) => onChange({ ...texture, strength: Number(e.target.value) })}
							>
								{[...new Set([0.25, 0.5, 0.75, 1, texture.strength])].sort().map((s) => (
									<option key={s} value={s} className="bg-card">
										{s}
									</option>
								))}
							</select>
						</label>
					</span>
				)}
				{texture?.kind === "picture" && (
					<button
						type="button"
						className="btn btn-ghost btn-small ml-auto"
						title={texture.name}
						onClick={() => file.current?.click()}
					>
						<ImageUp size={13} aria-hidden /> <span className="truncate max-w-37.5">{texture.name}</span>
					</button>
				)}
				<input
					ref={file}
					type="file"
					aria-label="Picture of the surface"
					className="sr-only"
					tabIndex={-1}
					accept="image/png,image/jpeg,image/webp"
					onChange={(e) => {
						const picture = e.target.files?.[0];
						e.target.value = "";
						if (picture !== undefined) void take(picture);
					}}
				/>
			</Row>
			{holding && <HeldTextures materialId={materialId} choose={onChange} close={() => setHolding(false)} />}
			{texture?.kind === "picture" && (
				<Row label="Size, offset">
					{number("width mm", texture.size_mm[0], (w) => onChange({ ...texture, size_mm: [w, texture.size_mm[1]] }), 0.1)}
					{number("height", texture.size_mm[1], (h) => onChange({ ...texture, size_mm: [texture.size_mm[0], h] }), 0.1)}
					{number("right", texture.offset_mm[0], (x) => onChange({ ...texture, offset_mm: [x, texture.offset_mm[1]] }))}
					{number("up", texture.offset_mm[1], (y) => onChange({ ...texture, offset_mm: [texture.offset_mm[0], y] }))}
				</Row>
			)}
		</>
	);
}
