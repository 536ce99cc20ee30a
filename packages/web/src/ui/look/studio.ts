import { API_ROOT } from "@alvek/contract";
import { shadeAt } from "@alvek/core/look";
import type { Look, Texture } from "@alvek/core/material";
import {
	CanvasTexture,
	type Color,
	DataTexture,
	EquirectangularReflectionMapping,
	FloatType,
	type MeshStandardMaterial,
	PMREMGenerator,
	RepeatWrapping,
	RGBAFormat,
	SRGBColorSpace,
	TextureLoader,
	type Texture as ThreeTexture,
	Vector2,
	type WebGLRenderer,
} from "three";

/** Light from all around, for metals: bright above, a window to the left, dark below. Made here, nothing is loaded. */
export function studioLight(renderer: WebGLRenderer): ThreeTexture {
	const [width, height] = [64, 32];
	const data = new Float32Array(width * height * 4);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const up = y / (height - 1);
			const isWindow = x > 10 && x < 22 && up > 0.55 && up < 0.85;
			const light = isWindow ? 5 : 0.25 + 1.1 * up ** 1.5;
			data.set([light, light, light * 1.02, 1], (y * width + x) * 4);
		}
	}
	const flat = new DataTexture(data, width, height, RGBAFormat, FloatType);
	flat.mapping = EquirectangularReflectionMapping;
	flat.needsUpdate = true;
	const generator = new PMREMGenerator(renderer);
	const { texture } = generator.fromEquirectangular(flat);
	generator.dispose();
	flat.dispose();
	return texture;
}

/** Is the picture drawn by the processor, without a graphics card? Then reflections of a whole assembly would stutter. */
export function isSoftware(renderer: WebGLRenderer): boolean {
	const context = renderer.getContext();
	const info = context.getExtension("WEBGL_debug_renderer_info");
	const name = info === null ? "" : String(context.getParameter(info.UNMASKED_RENDERER_WEBGL));
	return /swiftshader|llvmpipe|software|basic render/i.test(name);
}

/** Where the picture of a texture comes from. */
export function pictureAddress(materialId: string, hash: string): string {
	return `${API_ROOT}/materials/${materialId}/files/${hash}?as=picture`;
}

const PIXELS = 256;
const made = new Map<string, ThreeTexture>();

/** The picture or the computed shades of a texture; made once. `onReady` is called when it can be drawn. */
function textureImage(texture: Texture, materialId: string, onReady: () => void): ThreeTexture {
	const key = texture.kind === "picture" ? `${materialId} ${texture.hash}` : texture.pattern;
	const known = made.get(key);
	if (known !== undefined) return known;
	const image =
		texture.kind === "picture"
			? new TextureLoader().load(pictureAddress(materialId, texture.hash), onReady)
			: new CanvasTexture(shadesOf(texture.pattern));
	image.wrapS = RepeatWrapping;
	image.wrapT = RepeatWrapping;
	if (texture.kind === "picture") image.colorSpace = SRGBColorSpace;
	made.set(key, image);
	return image;
}

/** Grey where nothing changes; darker and lighter as the pattern says. */
export function shadesOf(pattern: Extract<Texture, { kind: "procedural" }>["pattern"]): HTMLCanvasElement {
	const canvas = document.createElement("canvas");
	canvas.width = PIXELS;
	canvas.height = PIXELS;
	const context = canvas.getContext("2d");
	if (context === null) return canvas;
	const image = context.createImageData(PIXELS, PIXELS);
	for (let y = 0; y < PIXELS; y++) {
		for (let x = 0; x < PIXELS; x++) {
			const grey = Math.min(Math.max(127.5 * (1 + shadeAt(pattern, x / PIXELS, y / PIXELS)), 0), 255);
			image.data.set([grey, grey, grey, 255], (y * PIXELS + x) * 4);
		}
	}
	context.putImageData(image, 0, 0);
	return canvas;
}

type SceneOf = {
	/** Lengths of the scene to the metre. */
	readonly perMetre: number;
	readonly onReady: () => void;
	/** Without light from all around a metal would be black; it shines less then. */
	readonly reflects: boolean;
};

/** Lays a look on a material of the scene. */
export function applyLook(
	target: MeshStandardMaterial,
	wanted: { readonly look: Look; readonly colour: Color | string; readonly materialId: string },
	{ perMetre, onReady, reflects }: SceneOf,
): void {
	const { look, materialId } = wanted;
	target.color.set(wanted.colour);
	target.metalness = reflects ? look.metalness : look.metalness * 0.35;
	target.roughness = Math.max(look.roughness, 0.04);
	target.opacity = 1 - 0.92 * look.transparency;
	target.transparent = look.transparency > 0;
	target.depthWrite = look.transparency < 0.5;
	const { texture } = look;
	const key = `look ${texture === null ? "" : `${materialId} ${JSON.stringify(texture)}`}`;
	// the program follows the texture only; a selection that changes colours compiles nothing anew
	if (target.userData.look === key) return;
	target.userData.look = key;
	if (texture === null) {
		target.onBeforeCompile = () => undefined;
	} else {
		const size = texture.kind === "picture" ? texture.size_mm : ([texture.size_mm, texture.size_mm] as const);
		const offset = texture.kind === "picture" ? texture.offset_mm : ([0, 0] as const);
		const millimetre = perMetre / 1000;
		const uniforms = {
			lookMap: { value: textureImage(texture, materialId, onReady) },
			lookScale: { value: new Vector2(1 / (size[0] * millimetre), 1 / (size[1] * millimetre)) },
			lookOffset: { value: new Vector2(offset[0] * millimetre, offset[1] * millimetre) },
			lookStrength: { value: texture.kind === "procedural" ? texture.strength : 1 },
		};
		target.onBeforeCompile = (shader) => {
			Object.assign(shader.uniforms, uniforms);
			shader.vertexShader = `varying vec3 vLookPlace;\nvarying vec3 vLookNormal;\n${shader.vertexShader.replace(
				"#include <begin_vertex>",
				"#include <begin_vertex>\n\tvLookPlace = position;\n\tvLookNormal = normal;",
			)}`;
			shader.fragmentShader = HEAD + shader.fragmentShader.replace("#include <map_fragment>", FROM_SIDES + PAINTS[texture.kind]);
		};
	}
	target.customProgramCacheKey = () => key;
	target.needsUpdate = true;
}

const HEAD = `uniform sampler2D lookMap;
uniform vec2 lookScale;
uniform vec2 lookOffset;
uniform float lookStrength;
varying vec3 vLookPlace;
varying vec3 vLookNormal;
`;

/** Projected along the three axes and blended by how much a face turns to each: solids from a file have no seams to follow. */
const FROM_SIDES = `
	vec3 turned = pow(abs(normalize(vLookNormal)), vec3(8.0));
	turned /= turned.x + turned.y + turned.z;
	vec3 laid = texture2D(lookMap, (vLookPlace.yz - lookOffset) * lookScale).rgb * turned.x
		+ texture2D(lookMap, (vLookPlace.xz - lookOffset) * lookScale).rgb * turned.y
		+ texture2D(lookMap, (vLookPlace.xy - lookOffset) * lookScale).rgb * turned.z;
`;
const PAINTS = {
	procedural: "\tdiffuseColor.rgb *= mix(vec3(1.0), 2.0 * laid, 0.6 * lookStrength);\n",
	picture: "\tdiffuseColor.rgb = laid;\n",
} as const;
