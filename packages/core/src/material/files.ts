import type { Material } from "./types";

/** SHA-256 of every file that a document names: attachments, and the picture on its look. Each once. */
export function filesOf(material: Material): readonly string[] {
	const texture = material.look?.texture;
	const attached = Object.values(material.attachments).map((a) => a.hash);
	return [...new Set(texture?.kind === "picture" ? [...attached, texture.hash] : attached)];
}
