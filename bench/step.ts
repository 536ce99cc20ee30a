import { readFileSync } from "node:fs";
import { bootKernel, type Occ } from "@alvek/kernel/occ";
import { readStepFile } from "@alvek/kernel/read";

/** Reading mount.step beside the same kernel steps alone: both warm, alternating, in one thread. */
const occ = await bootKernel();
const bytes = new Uint8Array(readFileSync("fixtures/mount.step"));
const numbers = new Set(
	[...new TextDecoder("latin1").decode(bytes).matchAll(/#(\d+)\s*=\s*MANIFOLD_SOLID_BREP/g)].map((m) => Number(m[1])),
);

/** Load, transfer each solid, volume, area, tessellation: nothing of ours. */
function kernelAlone(o: Occ): number {
	o.FS.writeFile("/alone.step", bytes);
	const reader = new o.STEPControl_Reader();
	reader.ReadFile("/alone.step");
	const model = reader.StepModel();
	let volume = 0;
	for (let i = 1; i <= model.NbEntities(); i++) {
		const entity = model.Value(i);
		if (!numbers.has(model.IdentLabel(entity))) continue;
		reader.ClearShapes();
		reader.TransferEntity(entity, new o.Message_ProgressRange());
		const shape = reader.Shape(1);
		const [v, a] = [new o.GProp_GProps(), new o.GProp_GProps()];
		o.BRepGProp.VolumeProperties(shape, v, 1e-12, true, false);
		o.BRepGProp.SurfaceProperties(shape, a, 1e-12, false);
		volume += v.Mass();
		const deflection = Math.max(Math.cbrt(v.Mass()) * 0.004, 1e-4);
		o.ReplicadMeshExtractor.extract(shape, deflection, 0.35, false).delete();
		o.ReplicadEdgeMeshExtractor.extract(shape, deflection, 0.35).delete();
		v.delete();
		a.delete();
	}
	reader.delete();
	return volume;
}

const time = (work: () => unknown): number => {
	const start = performance.now();
	work();
	return performance.now() - start;
};
for (let i = 0; i < 3; i++) {
	readStepFile(occ, bytes, { mesh: true });
	kernelAlone(occ);
}
const ours: number[] = [];
const alone: number[] = [];
for (let i = 0; i < 15; i++) {
	ours.push(time(() => readStepFile(occ, bytes, { mesh: true })));
	alone.push(time(() => kernelAlone(occ)));
}
const median = (x: number[]): number => [...x].sort((a, b) => a - b)[Math.floor(x.length / 2)] ?? 0;
console.log(
	JSON.stringify({
		bench: "step",
		file: "mount.step",
		ours_ms: Number(median(ours).toFixed(1)),
		kernel_alone_ms: Number(median(alone).toFixed(1)),
		ratio: Number((median(ours) / median(alone)).toFixed(3)),
		goal: "< 1.3",
		rounds: ours.length,
	}),
);
