import { fail, ok, type Result } from "../result";
import { LIMITS } from "./limits";
import { choiceIssue, plainObject, textIssue } from "./shape";
import { type Attachment, HATCHES, type Look, PURPOSES, TEXTURES, type Texture } from "./types";

const HASH = /^[0-9a-f]{64}$/;

/** A number inside its bounds; the issue names both. */
function within(input: unknown, low: number, high: number, path: string): Result<number> {
	if (typeof input === "number" && input >= low && input <= high) return ok(input);
	return fail({ code: "out-of-bounds", path, actual: String(input).slice(0, 40), expected: `${low} to ${high}` });
}

/** The look of a material: shares between 0 and 1, a texture in its real size, a hatch. */
export function decodeLook(input: unknown): Result<Look> {
	const shape = plainObject(input, ["surface", "metalness", "roughness", "transparency", "texture", "hatch"], "look");
	if (!shape.ok) return shape;
	const { surface, metalness, roughness, transparency, texture, hatch } = shape.value;
	const issue = textIssue(surface ?? null, LIMITS.name, "look.surface");
	if (issue !== null) return fail(issue);
	for (const [name, share] of Object.entries({ metalness, roughness, transparency })) {
		const read = within(share, 0, 1, `look.${name}`);
		if (!read.ok) return read;
	}
	if (texture !== null) {
		const read = decodeTexture(texture);
		if (!read.ok) return read;
	}
	// every field of it is looked at here
	const look = shape.value as unknown as Look;
	if (hatch === null) return ok(look);
	const drawn = plainObject(hatch, ["pattern", "angle_deg", "spacing_mm"], "look.hatch");
	if (!drawn.ok) return drawn;
	const unknown = choiceIssue(drawn.value.pattern ?? null, HATCHES, "look.hatch.pattern");
	if (unknown !== null) return fail(unknown);
	const angle = within(drawn.value.angle_deg, -180, 180, "look.hatch.angle_deg");
	const spacing = within(drawn.value.spacing_mm, 0.5, 50, "look.hatch.spacing_mm");
	if (!angle.ok) return angle;
	return spacing.ok ? ok(look) : spacing;
}

function decodeTexture(input: unknown): Result<Texture> {
	const kind = (input as { kind?: unknown } | undefined)?.kind;
	if (kind === "procedural") {
		const shape = plainObject(input, ["kind", "pattern", "size_mm", "strength"], "look.texture");
		if (!shape.ok) return shape;
		const { pattern, size_mm, strength } = shape.value;
		const issue = choiceIssue(pattern ?? null, TEXTURES, "look.texture.pattern");
		if (issue !== null) return fail(issue);
		const size = within(size_mm, 0.1, 10_000, "look.texture.size_mm");
		const share = within(strength, 0, 1, "look.texture.strength");
		if (!size.ok) return size;
		return share.ok ? ok(input as Texture) : share;
	}
	const shape = plainObject(input, ["kind", "hash", "name", "size_mm", "offset_mm"], "look.texture");
	if (!shape.ok) return shape;
	const { hash, name, size_mm, offset_mm } = shape.value;
	if (kind !== "picture" || typeof hash !== "string" || !HASH.test(hash) || textIssue(name ?? null, LIMITS.name, "") !== null)
		return fail({ code: "wrong-type", path: "look.texture", expected: "a pattern, or a stored picture" });
	for (const [path, pair, low] of [
		["look.texture.size_mm", size_mm, 0.1],
		["look.texture.offset_mm", offset_mm, -10_000],
	] as const) {
		if (!Array.isArray(pair) || pair.length !== 2) return fail({ code: "wrong-type", path, expected: "two numbers in mm" });
		for (const side of pair) {
			const read = within(side, low, 10_000, path);
			if (!read.ok) return read;
		}
	}
	return ok(input as Texture);
}

/** What is said of a stored file. */
export function decodeAttachment(input: unknown, path: string): Result<Attachment> {
	const shape = plainObject(input, ["name", "purpose", "note", "format", "hash", "bytes", "version", "date"], path);
	if (!shape.ok) return shape;
	const { name, purpose, note, format, hash, bytes, version, date } = shape.value;
	const issue =
		choiceIssue(purpose ?? null, PURPOSES, `${path}.purpose`) ??
		textIssue(name ?? null, LIMITS.name, `${path}.name`) ??
		textIssue(note ?? null, LIMITS.description, `${path}.note`) ??
		textIssue(format ?? null, 40, `${path}.format`);
	if (issue !== null) return fail(issue);
	if (name === "" || /[/\\]|\p{Cc}/u.test(name as string))
		return fail({ code: "wrong-type", path: `${path}.name`, expected: "a file name without folders" });
	const counted = within(bytes, 1, LIMITS.file, `${path}.bytes`);
	const turn = within(version, 1, 1e6, `${path}.version`);
	if (!counted.ok) return counted;
	if (!turn.ok) return turn;
	if (typeof hash !== "string" || !HASH.test(hash) || typeof date !== "string" || !/^\d{4}-\d{2}-\d{2}$/.test(date))
		return fail({ code: "wrong-type", path, expected: "a checksum and a date" });
	return ok(input as Attachment);
}
