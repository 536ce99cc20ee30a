import { writeFileSync } from "node:fs";
import { bootKernel, type Occ } from "@alvek/kernel/occ";

/**
 * Makes the sampling winch of the demo and writes it as STEP: millimetres, shaft along x, z up.
 * `node demo/dist/winch.js FILE` writes it anew; the file is shipped.
 */
type Shape = ReturnType<InstanceType<Occ["BRepPrimAPI_MakeBox"]>["Shape"]>;
type Point = readonly [number, number, number];

class Workshop {
	constructor(private readonly occ: Occ) {}

	private axis(at: Point, along: Point) {
		const { occ } = this;
		return new occ.gp_Ax2(new occ.gp_Pnt(...at), new occ.gp_Dir(...along));
	}

	box(from: Point, size: Point): Shape {
		const { occ } = this;
		const to: Point = [from[0] + size[0], from[1] + size[1], from[2] + size[2]];
		return new occ.BRepPrimAPI_MakeBox(new occ.gp_Pnt(...from), new occ.gp_Pnt(...to)).Shape();
	}

	cylinder(at: Point, along: Point, radius: number, length: number): Shape {
		return new this.occ.BRepPrimAPI_MakeCylinder(this.axis(at, along), radius, length).Shape();
	}

	/** A ring or tube along x. */
	tube(x: number, outer: number, inner: number, length: number): Shape {
		return this.cut(
			this.cylinder([x, 0, 0], [1, 0, 0], outer, length),
			this.cylinder([x - 1, 0, 0], [1, 0, 0], inner, length + 2),
		);
	}

	cut(from: Shape, ...tools: Shape[]): Shape {
		const { occ } = this;
		return tools.reduce((s, t) => this.solid(new occ.BRepAlgoAPI_Cut(s, t, new occ.Message_ProgressRange()).Shape()), from);
	}

	fuse(first: Shape, ...rest: Shape[]): Shape {
		const { occ } = this;
		return rest.reduce((s, t) => this.solid(new occ.BRepAlgoAPI_Fuse(s, t, new occ.Message_ProgressRange()).Shape()), first);
	}

	/** A boolean answers a compound; the part is the one solid in it. */
	private solid(shape: Shape): Shape {
		const { occ } = this;
		const explorer = new occ.TopExp_Explorer(shape, occ.TopAbs_ShapeEnum.TopAbs_SOLID, occ.TopAbs_ShapeEnum.TopAbs_SHAPE);
		return explorer.More() ? (explorer.Current() as Shape) : shape;
	}

	location(move: Point, turn?: { about: Point; angle: number }) {
		const { occ } = this;
		const trsf = new occ.gp_Trsf();
		if (turn !== undefined) {
			trsf.SetRotation(new occ.gp_Ax1(new occ.gp_Pnt(0, 0, 0), new occ.gp_Dir(...turn.about)), turn.angle);
		}
		trsf.SetTranslationPart(new occ.gp_Vec(...move));
		return new occ.TopLoc_Location(trsf);
	}
}

/** One drawing of each part, in its own coordinates. */
function parts(w: Workshop): Readonly<Record<string, Shape>> {
	const hole = (y: number, z: number, r: number, length: number): Shape => w.cylinder([-1, y, z], [1, 0, 0], r, length + 2);
	const sidePlate = w.cut(
		w.box([0, -80, -130], [10, 160, 210]),
		hole(0, 0, 20, 10),
		...[-1, 1].flatMap((s) => [hole(s * 62, 62, 4.5, 10), hole(s * 62, -112, 4.5, 10)]),
		w.cylinder([-1, 0, -85], [1, 0, 0], 24, 12),
	);
	const drum = w.fuse(w.tube(0, 52, 44, 190), w.tube(0, 78, 44, 6), w.tube(184, 78, 44, 6));
	const hub = w.tube(0, 44, 15, 12);
	return {
		"Base plate": w.cut(
			w.box([-20, -90, -140], [300, 180, 10]),
			...[0, 250].flatMap((x) => [-75, 75].map((y) => w.cylinder([x, y, -150], [0, 0, 1], 5.5, 30))),
		),
		"Side plate, left": sidePlate,
		"Side plate, right": w.cut(sidePlate, hole(48, 0, 3.3, 10), hole(-48, 0, 3.3, 10)),
		Drum: w.fuse(drum, hub),
		"Drum shaft": w.fuse(w.cylinder([-50, 0, 0], [1, 0, 0], 12, 340), w.cylinder([-2, 0, 0], [1, 0, 0], 15, 222)),
		"Bearing bush": w.fuse(w.tube(0, 20, 15.05, 14), w.tube(-3, 25, 15.05, 3)),
		"Thrust ring": w.tube(0, 26, 15.5, 3),
		"Brake disc": w.cut(
			w.tube(0, 64, 12, 5),
			...[0, 1, 2, 3, 4, 5].map((i) => hole(40 * Math.cos((i * Math.PI) / 3), 40 * Math.sin((i * Math.PI) / 3), 7, 5)),
		),
		"Motor housing": w.fuse(w.tube(0, 46, 41, 92), w.tube(92, 46, 8, 5)),
		"Lamination stack": w.cut(
			w.tube(0, 40.8, 22, 60),
			...[...Array(12).keys()].map((i) => hole(28 * Math.cos((i * Math.PI) / 6), 28 * Math.sin((i * Math.PI) / 6), 3.4, 60)),
		),
		"Spacer tube S": w.tube(0, 7, 4.5, 60),
		"Spacer tube M": w.tube(0, 7, 4.5, 120),
		"Spacer tube L": w.tube(0, 7, 4.5, 206),
		Cover: w.cut(w.box([0, -84, 84], [226, 168, 26]), w.box([2.5, -81.5, 80], [221, 163, 27.5])),
		Bumper: w.cut(w.cylinder([0, 0, 0], [0, 0, 1], 16, 18), w.cylinder([0, 0, 6], [0, 0, 1], 5.5, 20)),
		"Boom arm": w.cut(
			w.fuse(
				w.box([0, -14, -22], [430, 28, 44]),
				w.cylinder([430, 14, 0], [0, -1, 0], 22, 28),
				w.cylinder([0, 14, 0], [0, -1, 0], 22, 28),
			),
			w.cylinder([430, 20, 0], [0, -1, 0], 8, 40),
			w.cylinder([0, 20, 0], [0, -1, 0], 8, 40),
			w.box([30, -10, -17], [360, 20, 34]),
		),
		"Cable guide": w.cut(
			w.box([0, -18, -12], [24, 36, 24]),
			w.cylinder([12, -30, 0], [0, 1, 0], 6.5, 60),
			w.cylinder([12, 0, -20], [0, 0, 1], 5, 50),
		),
		"Hex bolt": w.fuse(w.cylinder([0, 0, 0], [1, 0, 0], 4, 22), w.cylinder([-5.3, 0, 0], [1, 0, 0], 7, 5.3)),
	};
}

type Placed = readonly [part: string, at: Point, turn?: { about: Point; angle: number }];

/** A bearing set, used left and (turned about) right. */
const BEARING_SET: readonly Placed[] = [
	["Bearing bush", [0, 0, 0]],
	["Thrust ring", [14, 0, 0]],
];

const half = (about: Point) => ({ about, angle: Math.PI });
const WINCH: readonly Placed[] = [
	["Base plate", [0, 0, 0]],
	["Side plate, left", [0, 0, 0]],
	["Side plate, right", [216, 0, 0]],
	["Drum", [18, 0, 0]],
	["Drum shaft", [4, 0, 0]],
	["Brake disc", [-20, 0, 0]],
	["Motor housing", [228, 0, 0]],
	["Lamination stack", [240, 0, 0]],
	["Spacer tube L", [10, -62, 62]],
	["Spacer tube L", [10, 62, 62]],
	["Spacer tube M", [14, -62, -112]],
	["Spacer tube M", [92, 62, -112]],
	["Spacer tube S", [150, -62, -112]],
	["Cover", [0, 0, 0]],
	["Bumper", [0, -75, -158]],
	["Bumper", [0, 75, -158]],
	["Bumper", [250, -75, -158]],
	["Bumper", [250, 75, -158]],
	["Boom arm", [113, 0, 132], { about: [0, -1, 0], angle: Math.PI / 5 }],
	["Cable guide", [101, 0, 124]],
	...[-1, 1].flatMap((s): Placed[] => [
		["Hex bolt", [0, s * 62, 62]],
		["Hex bolt", [0, s * 62, -112]],
		["Hex bolt", [226, s * 62, 62], half([0, 0, 1])],
		["Hex bolt", [226, s * 62, -112], half([0, 0, 1])],
	]),
];

/** Writes the winch; the XCAF document holds names and the tree. */
export function writeWinch(occ: Occ, file: string): void {
	const name = (text: string) => new occ.TCollection_ExtendedString(text, true);
	const document = new occ.TDocStd_Document(name("XmlXCAF"));
	const shapes = occ.XCAFDoc_DocumentTool.ShapeTool(document.Main());
	const workshop = new Workshop(occ);
	const labels = new Map<string, ReturnType<typeof shapes.NewShape>>();
	for (const [part, shape] of Object.entries(parts(workshop))) {
		const label = shapes.AddShape(shape, false, false);
		occ.TDataStd_Name.Set(label, name(part));
		labels.set(part, label);
	}
	const assemble = (title: string, placed: readonly Placed[]): ReturnType<typeof shapes.NewShape> => {
		const assembly = shapes.NewShape();
		occ.TDataStd_Name.Set(assembly, name(title));
		const total = (part: string): number => placed.filter(([other]) => other === part).length;
		const counts = new Map<string, number>();
		for (const [part, at, turn] of placed) {
			const n = (counts.get(part) ?? 0) + 1;
			counts.set(part, n);
			const label = labels.get(part);
			if (label === undefined) throw new Error(`no part ${part}`);
			const component = shapes.AddComponent(assembly, label, workshop.location(at, turn));
			occ.TDataStd_Name.Set(component, name(total(part) === 1 ? part : `${part} ${n} of ${total(part)}`));
		}
		labels.set(title, assembly);
		return assembly;
	};
	assemble("Bearing set", BEARING_SET);
	const winch: Placed[] = [...WINCH, ["Bearing set", [0, 0, 0]], ["Bearing set", [226, 0, 0], half([0, 0, 1])]];
	assemble("Sampling winch", winch);
	shapes.UpdateAssemblies();
	const writer = new occ.STEPCAFControl_Writer();
	writer.SetNameMode(true);
	if (!writer.Perform(document, "/winch.step", new occ.Message_ProgressRange())) throw new Error("the kernel wrote no STEP file");
	const text = new TextDecoder().decode(occ.FS.readFile("/winch.step") as Uint8Array);
	// no time stamp: the same drawing gives the same file
	writeFileSync(file, text.replace(/(FILE_NAME\('[^']*',')[^']*'/, "$12026-11-01T00:00:00'"));
}

const target = process.argv[2];
if (target !== undefined) writeWinch(await bootKernel(), target);
