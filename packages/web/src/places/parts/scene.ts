import type { MeshSolid, ProjectView } from "@alvek/contract";
import { type Look, PLAIN_LOOK } from "@alvek/core/material";
import {
	AmbientLight,
	Box3,
	BufferAttribute,
	BufferGeometry,
	Color,
	DirectionalLight,
	Group,
	LineBasicMaterial,
	LineDashedMaterial,
	LineSegments,
	Matrix4,
	Mesh,
	MeshStandardMaterial,
	OrthographicCamera,
	Raycaster,
	Scene,
	Sphere,
	Vector2,
	Vector3,
	WebGLRenderer,
} from "three";
import { OrbitControls } from "three/addons/controls/OrbitControls.js";
import { acceleratedRaycast, computeBoundsTree } from "three-mesh-bvh";
import { applyLook, isSoftware, studioLight } from "../../ui/look/studio";

/** Colours that the scene takes from the theme. */
export type SceneColours = { readonly ink: string; readonly accent: string; readonly wrong: string };

/** What a part is drawn in. */
export type Paint = { readonly colour: string; readonly look: Look; readonly materialId: string };

const BARE = { look: PLAIN_LOOK, materialId: "" } as const;

/** Where the x, y and z axes point in the picture, each of length 1 seen from the front; y runs upward. */
export type Triad = readonly (readonly [number, number])[];

const AXES = [new Vector3(1, 0, 0), new Vector3(0, 1, 0), new Vector3(0, 0, 1)] as const;

type Piece = { readonly part: string; readonly mesh: Mesh; readonly edges: LineSegments };

/**
 * The assembly drawn on demand: a frame is made only when something changed. An orthographic view, z up, so that
 * equal lengths look equal.
 */
export class PartsScene {
	private readonly scene = new Scene();
	private readonly camera = new OrthographicCamera();
	private readonly renderer: WebGLRenderer;
	private readonly controls: OrbitControls;
	private readonly root = new Group();
	private readonly raycaster = new Raycaster();
	private pieces: Piece[] = [];
	private radius = 1;
	/** Half width and height of what is to be seen, in the plane of the view. */
	private extent = { x: 1, y: 1 };
	private frame = 0;
	private readonly reflects: boolean;
	private readonly observer: ResizeObserver;

	constructor(
		private readonly host: HTMLElement,
		onPick: (part: string | null, add: boolean) => void,
		private readonly onTurn: (triad: Triad) => void,
	) {
		this.renderer = new WebGLRenderer({ antialias: true, alpha: true });
		this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
		host.append(this.renderer.domElement);
		this.camera.up.set(0, 0, 1);
		this.reflects = !isSoftware(this.renderer);
		this.scene.add(this.root, new AmbientLight(0xffffff, this.reflects ? 1.15 : 1.6));
		if (this.reflects) {
			// metals live by what they reflect
			this.scene.environment = studioLight(this.renderer);
			this.scene.environmentIntensity = 0.45;
		}
		const lamp = new DirectionalLight(0xffffff, 2.2);
		lamp.position.set(-0.6, -1, 1.4);
		const fill = new DirectionalLight(0xffffff, 0.7);
		fill.position.set(1, 0.6, -0.3);
		this.camera.add(lamp, fill);
		this.scene.add(this.camera);
		this.controls = new OrbitControls(this.camera, this.renderer.domElement);
		this.controls.addEventListener("change", () => this.draw());
		this.observer = new ResizeObserver(() => this.resize());
		this.observer.observe(host);
		this.pickOnClick(onPick);
		this.resize();
	}

	/** Builds all pieces; geometry of a part is shared by its occurrences. */
	setProject(project: ProjectView, meshes: ReadonlyMap<string, readonly MeshSolid[]>): void {
		this.clear();
		const byPart = new Map<string, { faces: BufferGeometry; edges: BufferGeometry }[]>();
		for (const part of project.parts) {
			const [, product = "-1"] = part.key.split(":");
			const solids = (meshes.get(part.geometryHash) ?? []).filter((m) => m.product === Number(product));
			byPart.set(part.id, solids.map(geometriesOf));
		}
		for (const occurrence of project.occurrences) {
			if (occurrence.partId === null) continue;
			const matrix = matrixOf(occurrence.matrix);
			for (const { faces, edges } of byPart.get(occurrence.partId) ?? []) {
				const mesh = new Mesh(
					faces,
					new MeshStandardMaterial({
						roughness: 0.75,
						metalness: 0.05,
						polygonOffset: true,
						polygonOffsetFactor: 1,
						polygonOffsetUnits: 1,
					}),
				);
				mesh.raycast = acceleratedRaycast;
				const lines = new LineSegments(edges, new LineBasicMaterial());
				mesh.userData.part = occurrence.partId;
				for (const object of [mesh, lines]) {
					object.applyMatrix4(matrix);
					object.matrixAutoUpdate = false;
					this.root.add(object);
				}
				this.pieces.push({ part: occurrence.partId, mesh, edges: lines });
			}
		}
		this.fit();
	}

	/** Each part in its paint; what has none (no material) is drawn as a dashed outline. */
	paint(paints: ReadonlyMap<string, Paint | null>, selected: ReadonlySet<string>, theme: SceneColours): void {
		for (const { part, mesh, edges } of this.pieces) {
			const paint = paints.get(part) ?? null;
			const colour = paint?.colour ?? null;
			const isSelected = selected.has(part);
			const faces = mesh.material as MeshStandardMaterial;
			// geometry stands in metres
			applyLook(faces, paint ?? { ...BARE, colour: theme.accent }, {
				perMetre: 1,
				onReady: () => this.draw(),
				reflects: this.reflects,
			});
			if (paint === null) {
				faces.transparent = true;
				faces.opacity = isSelected ? 0.18 : 0;
				faces.depthWrite = false;
			}
			faces.emissive.set(isSelected ? theme.accent : "#000000");
			faces.emissiveIntensity = isSelected ? 0.35 : 0;
			const tone = isSelected ? theme.accent : colour === null ? theme.wrong : theme.ink;
			const old = edges.material as LineBasicMaterial;
			old.dispose();
			edges.material =
				colour === null
					? new LineDashedMaterial({ color: tone, dashSize: this.radius * 0.018, gapSize: this.radius * 0.012 })
					: new LineBasicMaterial({
							color: new Color(tone),
							transparent: !isSelected,
							opacity: isSelected ? 1 : 0.55,
							depthTest: !isSelected,
						});
			edges.renderOrder = isSelected ? 2 : 1;
		}
		this.draw();
	}

	/** Everything in view, seen from the front right above. */
	fit(): void {
		const box = new Box3().setFromObject(this.root);
		if (box.isEmpty()) return this.draw();
		const sphere = box.getBoundingSphere(new Sphere());
		this.radius = Math.max(sphere.radius, 1e-6);
		this.controls.target.copy(sphere.center);
		this.camera.position.copy(sphere.center).add(new Vector3(0.75, -1.25, 0.7).normalize().multiplyScalar(this.radius * 4));
		this.camera.zoom = 1;
		this.controls.update();
		this.camera.updateMatrixWorld();
		this.extent = this.extentOf(box);
		this.resize();
	}

	/** How far the corners of a box stand from the middle of the view. */
	private extentOf(box: Box3): { x: number; y: number } {
		const extent = { x: 0, y: 0 };
		for (let corner = 0; corner < 8; corner++) {
			const pick = (bit: number, axis: "x" | "y" | "z"): number => (corner & bit ? box.max[axis] : box.min[axis]);
			const seen = new Vector3(pick(1, "x"), pick(2, "y"), pick(4, "z")).applyMatrix4(this.camera.matrixWorldInverse);
			extent.x = Math.max(extent.x, Math.abs(seen.x));
			extent.y = Math.max(extent.y, Math.abs(seen.y));
		}
		return extent;
	}

	/** Turns the view by the keyboard: degrees about the vertical and upward, or a zoom factor. */
	nudge(turn: number, tilt: number, zoom: number): void {
		const offset = this.camera.position.clone().sub(this.controls.target);
		offset.applyAxisAngle(new Vector3(0, 0, 1), (turn * Math.PI) / 180);
		const side = new Vector3(0, 0, 1).cross(offset).normalize();
		const tilted = offset.clone().applyAxisAngle(side, (-tilt * Math.PI) / 180);
		// never over the pole
		if (Math.abs(tilted.clone().normalize().z) < 0.985) offset.copy(tilted);
		this.camera.position.copy(this.controls.target).add(offset);
		this.camera.zoom *= zoom;
		this.camera.updateProjectionMatrix();
		this.controls.update();
		this.draw();
	}

	/** The part under a point of the window; parts without material can be hit too. */
	partAt(clientX: number, clientY: number): string | null {
		const rect = this.renderer.domElement.getBoundingClientRect();
		const point = new Vector2(((clientX - rect.left) / rect.width) * 2 - 1, 1 - ((clientY - rect.top) / rect.height) * 2);
		this.raycaster.setFromCamera(point, this.camera);
		const hit = this.raycaster.intersectObjects(
			this.pieces.map((p) => p.mesh),
			false,
		)[0];
		return (hit?.object.userData.part as string | undefined) ?? null;
	}

	dispose(): void {
		this.observer.disconnect();
		cancelAnimationFrame(this.frame);
		this.controls.dispose();
		this.scene.environment?.dispose();
		this.clear();
		this.renderer.dispose();
		this.renderer.domElement.remove();
	}

	private clear(): void {
		for (const { mesh, edges } of this.pieces) {
			for (const object of [mesh, edges]) {
				object.geometry.dispose();
				(object.material as MeshStandardMaterial | LineBasicMaterial).dispose();
			}
		}
		this.root.clear();
		this.pieces = [];
	}

	private draw(): void {
		if (this.frame !== 0) return;
		this.frame = requestAnimationFrame(() => {
			this.frame = 0;
			this.renderer.render(this.scene, this.camera);
			this.onTurn(
				AXES.map((axis) => {
					const seen = axis.clone().transformDirection(this.camera.matrixWorldInverse);
					return [seen.x, seen.y] as const;
				}),
			);
		});
	}

	private resize(): void {
		const { clientWidth: w, clientHeight: h } = this.host;
		if (w === 0 || h === 0) return;
		this.renderer.setSize(w, h);
		// both extents fit, with a margin
		const scale = 1.08 * Math.max(this.extent.x / w, this.extent.y / h);
		const [x, y] = [scale * w, scale * h];
		Object.assign(this.camera, { left: -x, right: x, top: y, bottom: -y, near: this.radius * 0.01, far: this.radius * 40 });
		this.camera.updateProjectionMatrix();
		this.draw();
	}

	/** A click that did not turn the view picks. */
	private pickOnClick(onPick: (part: string | null, add: boolean) => void): void {
		const canvas = this.renderer.domElement;
		let down: { x: number; y: number } | null = null;
		canvas.addEventListener("pointerdown", (e) => {
			down = e.button === 0 ? { x: e.clientX, y: e.clientY } : null;
		});
		canvas.addEventListener("pointerup", (e) => {
			if (down === null || Math.hypot(e.clientX - down.x, e.clientY - down.y) > 4) return;
			down = null;
			onPick(this.partAt(e.clientX, e.clientY), e.ctrlKey || e.metaKey || e.shiftKey);
		});
	}
}

function geometriesOf(solid: MeshSolid): { faces: BufferGeometry; edges: BufferGeometry } {
	const faces = new BufferGeometry();
	faces.setAttribute("position", new BufferAttribute(solid.positions, 3));
	faces.setAttribute("normal", new BufferAttribute(solid.normals, 3));
	// the tree of bounds reorders the index, which is shared by nobody after this copy
	faces.setIndex(new BufferAttribute(solid.triangles.slice(), 1));
	computeBoundsTree.call(faces);
	const edges = new BufferGeometry();
	edges.setAttribute("position", new BufferAttribute(solid.lines, 3));
	edges.setAttribute("lineDistance", new BufferAttribute(lineDistances(solid.lines), 1));
	return { faces, edges };
}

/** Length along each edge, for dashes: restarts with every pair of points. */
function lineDistances(lines: Float32Array): Float32Array {
	const distances = new Float32Array(lines.length / 3);
	let along = 0;
	for (let i = 0; i + 5 < lines.length; i += 6) {
		const at = (k: number): number => lines[i + k] as number;
		distances[i / 3] = along;
		along += Math.hypot(at(3) - at(0), at(4) - at(1), at(5) - at(2));
		distances[i / 3 + 1] = along;
	}
	return distances;
}

function matrixOf(m: readonly number[]): Matrix4 {
	const at = (i: number): number => m[i] ?? 0;
	return new Matrix4().set(at(0), at(1), at(2), at(3), at(4), at(5), at(6), at(7), at(8), at(9), at(10), at(11), 0, 0, 0, 1);
}
