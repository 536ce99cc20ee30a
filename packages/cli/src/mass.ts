import { readFileSync, statSync } from "node:fs";
import { type DensityRange, type MassItem, type Mat3, massOf, totalMass, type Vec3 } from "@alvek/core/mass";
import { makeValue, workingValue } from "@alvek/core/material";
import { leftOutInWords } from "@alvek/core/part21";
import { describeIssue, fail, type Issue, ok, type Result } from "@alvek/core/result";
import { type Body, bodiesOf, createKernel, type GeometryDoubt, type StepGeometry } from "@alvek/kernel";
import type { Arguments } from "./arguments";

const UPLOAD_LIMIT = 200 * 1024 * 1024;

/** `alvek mass`; the exit code. */
export async function massCommand({ words, flags }: Arguments): Promise<number> {
	const file = words[0];
	if (file === undefined || (!flags.has("--density") && !flags.has("--materials"))) {
		process.stderr.write("alvek mass needs a STEP file and --density or --materials; see alvek --help\n");
		return 2;
	}
	const result = await weigh(file, flags);
	if (flags.has("--json"))
		process.stdout.write(`${JSON.stringify(result.ok ? result.value : { ok: false, issues: spoken(result.issues) })}\n`);
	else process.stdout.write(result.ok ? plain(result.value) : `${result.issues.map(describeIssue).join("\n")}\n`);
	return result.ok ? 0 : 1;
}

function spoken(issues: readonly Issue[]): object[] {
	return issues.map((i) => ({ ...i, message: describeIssue(i) }));
}

type Report = Exclude<Awaited<ReturnType<typeof report>>, never>;

async function weigh(file: string, flags: ReadonlyMap<string, string>): Promise<Result<Report>> {
	const densities = readDensities(flags);
	if (!densities.ok) return densities;
	const bytes = readBytes(file);
	if (!bytes.ok) return bytes;
	const kernel = createKernel({ workerUrl: new URL("../../kernel/dist/worker.js", import.meta.url) });
	try {
		const geometry = await kernel.read({ bytes: bytes.value, mesh: false });
		return geometry.ok ? ok(report(geometry.value, densities.value)) : geometry;
	} finally {
		await kernel.close();
	}
}

function readBytes(file: string): Result<Uint8Array> {
	try {
		if (statSync(file).size > UPLOAD_LIMIT) return fail({ code: "upload-too-large", expected: "200 MB" });
		return ok(readFileSync(file));
	} catch {
		return fail({ code: "not-found", path: file });
	}
}

type Densities = (body: Body) => DensityRange | null;

function readDensities(flags: ReadonlyMap<string, string>): Result<Densities> {
	const single = flags.get("--density");
	if (single !== undefined) {
		const density = densityOf(single);
		return density.ok ? ok(() => density.value) : density;
	}
	const file = flags.get("--materials") as string;
	let map: unknown;
	try {
		map = JSON.parse(readFileSync(file, "utf8"));
	} catch {
		return fail({ code: "syntax", path: file, line: 1, actual: file, expected: "a JSON object of densities" });
	}
	if (typeof map !== "object" || map === null || Array.isArray(map)) {
		return fail({ code: "syntax", path: file, line: 1, actual: typeof map, expected: "a JSON object of densities" });
	}
	const read = new Map<string, DensityRange>();
	for (const [key, text] of Object.entries(map)) {
		const density = densityOf(String(text));
		if (!density.ok) return fail(...density.issues.map((i) => ({ ...i, path: key })));
		read.set(key, density.value);
	}
	return ok((body) => read.get(body.productId) ?? read.get(body.name) ?? null);
}

function densityOf(text: string): Result<DensityRange> {
	const value = makeValue("density", text);
	if (!value.ok) return value;
	const working = workingValue(value.value);
	if (working === null) return fail({ code: "out-of-bounds", actual: text, expected: "a density with two ends" });
	return ok({ working, low: value.value.low, high: value.value.high });
}

/** Everything in mm and kg, as the keys say. */
function report(geometry: StepGeometry, densityOfBody: Densities) {
	const bodies = bodiesOf(geometry);
	const items = bodies.map((body): MassItem => ({ solid: body.solid, density: densityOfBody(body) }));
	const total = totalMass(items);
	const uniform = totalMass(items.map((i) => ({ ...i, density: { working: 1, low: 1, high: 1 } })));
	const missing = bodies.filter((_, i) => items[i]?.density === null).map((b) => b.path);
	return {
		ok: true as const,
		unit: "mm, kg",
		moments: MOMENTS,
		solids: bodies.map((body, i) => {
			const density = (items[i] as MassItem).density;
			const mass = density === null ? null : massOf(body.solid.volume, density);
			return {
				name: body.name,
				path: body.path,
				product_id: body.productId,
				volume_mm3: body.solid.volume * 1e9,
				area_mm2: body.solid.area * 1e6,
				centroid_mm: millimetres(body.solid.centroid),
				inertia_kg_m2: density === null ? null : scaled(body.solid.inertia, density.working),
				mass_kg: mass?.mass ?? null,
				...(body.doubt === null ? {} : { doubt: doubtText(body.doubt) }),
				...(mass !== null && mass.low !== mass.high ? { mass_low_kg: mass.low, mass_high_kg: mass.high } : {}),
			};
		}),
		total: {
			volume_mm3: total.volume * 1e9,
			area_mm2: total.area * 1e6,
			centroid_mm: millimetres((total.centreOfGravity ?? uniform.centreOfGravity) as Vec3),
			inertia_kg_m2: total.inertia,
			mass_kg: total.mass?.mass ?? null,
			...(total.mass !== null && total.mass.low !== total.mass.high
				? { mass_low_kg: total.mass.low, mass_high_kg: total.mass.high }
				: {}),
			solids: total.bodies,
			solids_with_mass: total.bodiesWithMass,
		},
		left_out: geometry.model.leftOut,
		issues: missing.map((path) => ({ code: "no-material", path, expected: "a density for this part" })),
	};
}

/** How centres and moments are meant; said in every output and in the help. */
export const MOMENTS =
	"inertia_kg_m2 of a solid: about its own centroid; of the total: about the centre of gravity. Along the axes of the file; off-diagonals are the negative products, Ixy = -integral of x y dm. Centroids are from the origin of the file.";

const doubtText = (doubt: GeometryDoubt): string =>
	doubt.kind === "gap"
		? `edges or corners miss their surfaces by ${doubt.gap_m * 1e3} mm; its mass may be wrong`
		: "its boundary contradicts itself; its mass may be wrong";

function millimetres(v: Vec3): readonly number[] {
	return v.map((x) => x * 1e3);
}

function scaled(m: Mat3, by: number): readonly (readonly number[])[] {
	return m.map((row) => row.map((x) => x * by));
}

function plain(value: Report): string {
	const lines = value.solids.map((s) => {
		const doubt = "doubt" in s && s.doubt !== undefined ? `\tin doubt: ${s.doubt}` : "";
		return `${s.mass_kg === null ? "no mass" : `${s.mass_kg} kg`}\t${s.volume_mm3} mm3\t${s.path}${doubt}`;
	});
	const { mass_kg, solids, solids_with_mass } = value.total;
	const left = value.left_out.length === 0 ? [] : [`left out, no volume: ${leftOutInWords(value.left_out)}`];
	return `${[...lines, ...left, `total ${mass_kg ?? "no mass"} kg, ${solids_with_mass} of ${solids} solids`].join("\n")}\n`;
}
