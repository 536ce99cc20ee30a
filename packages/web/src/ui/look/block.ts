import type { Look } from "@alvek/core/material";
import {
	AmbientLight,
	DirectionalLight,
	EdgesGeometry,
	ExtrudeGeometry,
	LineBasicMaterial,
	LineSegments,
	Mesh,
	MeshStandardMaterial,
	OrthographicCamera,
	Path,
	Scene,
	Shape,
	WebGLRenderer,
} from "three";
import { HOLE, STEPS } from "./outline";
import { applyLook, isSoftware, studioLight } from "./studio";

/** Depth of the block, mm. */
const DEPTH = 34;

/** A neutral solid that wears a look; drawn when something changed. */
export class BlockView {
	private readonly renderer = new WebGLRenderer({ antialias: true, alpha: true });
	private readonly scene = new Scene();
	private readonly camera = new OrthographicCamera(-46, 46, 38, -38, 1, 400);
	private readonly body: Mesh<ExtrudeGeometry, MeshStandardMaterial>;
	private frame = 0;
	private readonly reflects: boolean;

	constructor(private readonly host: HTMLElement) {
		const outline = new Shape();
		for (const [i, [x, y]] of STEPS.entries()) i === 0 ? outline.moveTo(x, y) : outline.lineTo(x, y);
		outline.holes.push(new Path().absarc(HOLE.x, HOLE.y, HOLE.radius, 0, Math.PI * 2, true));
		const geometry = new ExtrudeGeometry(outline, {
			depth: DEPTH,
			bevelSize: 0.8,
			bevelThickness: 0.8,
			bevelSegments: 2,
			curveSegments: 32,
		});
		this.body = new Mesh(geometry, new MeshStandardMaterial());
		const edges = new LineSegments(
			new EdgesGeometry(geometry, 40),
			new LineBasicMaterial({ color: 0x000000, transparent: true, opacity: 0.18 }),
		);
		for (const object of [this.body, edges]) object.position.set(-30, -20, -DEPTH / 2);
		const lamp = new DirectionalLight(0xffffff, 1.7);
		lamp.position.set(-40, 70, 60);
		// without a graphics card the light from all around takes seconds to prepare
		this.reflects = !isSoftware(this.renderer);
		this.scene.add(this.body, edges, new AmbientLight(0xffffff, this.reflects ? 0.55 : 1.5), lamp);
		if (this.reflects) {
			this.scene.environment = studioLight(this.renderer);
			this.scene.environmentIntensity = 0.7;
		}
		this.camera.position.set(70, 70, 110);
		this.camera.lookAt(0, 0, 0);
		this.renderer.setPixelRatio(Math.min(devicePixelRatio, 2));
		host.append(this.renderer.domElement);
		this.resize();
	}

	show(look: Look, colour: string, materialId: string): void {
		applyLook(
			this.body.material,
			{ look, colour, materialId },
			{ perMetre: 1000, onReady: () => this.draw(), reflects: this.reflects },
		);
		this.draw();
	}

	resize(): void {
		const { clientWidth: w, clientHeight: h } = this.host;
		if (w === 0 || h === 0) return;
		const half = 40;
		Object.assign(this.camera, { left: (-half * w) / h, right: (half * w) / h, top: half, bottom: -half });
		this.camera.updateProjectionMatrix();
		this.renderer.setSize(w, h);
		this.draw();
	}

	dispose(): void {
		cancelAnimationFrame(this.frame);
		this.body.geometry.dispose();
		this.body.material.dispose();
		this.scene.environment?.dispose();
		this.renderer.dispose();
		this.renderer.domElement.remove();
	}

	private draw(): void {
		if (this.frame !== 0) return;
		this.frame = requestAnimationFrame(() => {
			this.frame = 0;
			this.renderer.render(this.scene, this.camera);
		});
	}
}
