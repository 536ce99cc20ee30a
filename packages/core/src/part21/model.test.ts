import { describe, expect, it } from "vitest";
import { apply, type Placement } from "../mass";
import { occurrences, readStep, type StepModel } from "./index";

/** A small file from lines of instances; numbers from 1000 on are the test's own. */
function step(lines: readonly string[]): string {
	return `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nENDSEC;\nDATA;\n${COMMON}${lines.join("\n")}\nENDSEC;\nEND-ISO-10303-21;\n`;
}

/** Context in millimetres (#6), one shell without faces (#9), the origin frame (#13). */
const COMMON = `#1=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT(.MILLI.,.METRE.));
#6=(GEOMETRIC_REPRESENTATION_CONTEXT(3)GLOBAL_UNIT_ASSIGNED_CONTEXT((#1))REPRESENTATION_CONTEXT('',''));
#9=CLOSED_SHELL('',());
#10=CARTESIAN_POINT('',(0.,0.,0.));#11=DIRECTION('',(0.,0.,1.));#12=DIRECTION('',(1.,0.,0.));
#13=AXIS2_PLACEMENT_3D('',#10,#11,#12);
#14=DIRECTION('',(0.,1.,0.));#15=DIRECTION('',(-1.,0.,0.));
`;

/** A product (n = its number) with one representation holding `items`. */
function product(n: number, name: string, items: string, type = "ADVANCED_BREP_SHAPE_REPRESENTATION"): string {
	return `#${n}=PRODUCT('${name}-id','${name}','',());#${n + 1}=PRODUCT_DEFINITION_FORMATION('','',#${n});
#${n + 2}=PRODUCT_DEFINITION('','',#${n + 1},$);#${n + 3}=PRODUCT_DEFINITION_SHAPE('','',#${n + 2});
#${n + 4}=${type}('',(${items}),#6);#${n + 5}=SHAPE_DEFINITION_REPRESENTATION(#${n + 3},#${n + 4});`;
}

function read(lines: readonly string[]): StepModel {
	const result = readStep(step(lines));
	if (!result.ok) throw new Error(JSON.stringify(result.issues));
	return result.value;
}

const place = (p: Placement | undefined, x: number, y: number, z: number): number[] =>
	apply(p as Placement, [x, y, z]).map((v) => Math.round(v * 1e6) / 1e6);

describe("placements come from the text", () => {
	const child = product(100, "Bracket", "#90", "ADVANCED_BREP_SHAPE_REPRESENTATION");
	const solid = "#90=MANIFOLD_SOLID_BREP('body',#9);";
	/** A frame at (10, 20, 30) mm whose x points along y. */
	const frame = "#70=CARTESIAN_POINT('',(10.,20.,30.));#71=AXIS2_PLACEMENT_3D('',#70,#11,#14);";
	const relation = (rep1: number, rep2: number, item1: number, item2: number): string =>
		`#300=NEXT_ASSEMBLY_USAGE_OCCURRENCE('1','Bracket:1','',#202,#102,$);#301=PRODUCT_DEFINITION_SHAPE('','',#300);
#302=ITEM_DEFINED_TRANSFORMATION('','',#${item1},#${item2});
#303=(REPRESENTATION_RELATIONSHIP('','',#${rep1},#${rep2})REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(#302)SHAPE_REPRESENTATION_RELATIONSHIP());
#304=CONTEXT_DEPENDENT_SHAPE_REPRESENTATION(#303,#301);`;

	it("item2 times the inverse of item1, when neither is the origin", () => {
		const second = "#75=CARTESIAN_POINT('',(100.,0.,0.));#76=AXIS2_PLACEMENT_3D('',#75,#11,#12);";
		const model = read([
			solid,
			frame,
			second,
			child,
			product(200, "Frame", "#13", "SHAPE_REPRESENTATION"),
			relation(104, 204, 71, 76),
		]);
		const [, bracket] = occurrences(model);
		expect(bracket?.path).toBe("Frame/Bracket:1");
		// the frame's own origin goes to (100, 0, 0); its x axis, which is +y in the part, becomes +x: all in metres
		expect(place(bracket?.placement, 0.01, 0.02, 0.03)).toEqual([0.1, 0, 0]);
		expect(place(bracket?.placement, 0.01, 0.021, 0.03)).toEqual([0.101, 0, 0]);
	});

	it("the same when a writer turns the pair of representations round", () => {
		const straight = read([
			solid,
			frame,
			child,
			product(200, "Frame", "#13,#71", "SHAPE_REPRESENTATION"),
			relation(104, 204, 13, 71),
		]);
		const turned = read([
			solid,
			frame,
			child,
			product(200, "Frame", "#13,#71", "SHAPE_REPRESENTATION"),
			relation(204, 104, 71, 13),
		]);
		expect(occurrences(turned)[1]?.placement).toEqual(occurrences(straight)[1]?.placement);
	});

	it("a reference direction that is not square to the axis is made so, and a missing one chosen", () => {
		const slanted = "#72=DIRECTION('',(1.,0.,5.));#73=AXIS2_PLACEMENT_3D('',#10,#11,#72);";
		const model = read([
			solid,
			slanted,
			child,
			product(200, "Frame", "#13,#73", "SHAPE_REPRESENTATION"),
			relation(104, 204, 13, 73),
		]);
		expect(place(occurrences(model)[1]?.placement, 1, 2, 3)).toEqual([1, 2, 3]);
		const bare = read([
			solid,
			"#73=AXIS2_PLACEMENT_3D('',#10,$,$);",
			child,
			product(200, "Frame", "#13,#73", "SHAPE_REPRESENTATION"),
			relation(104, 204, 13, 73),
		]);
		expect(place(occurrences(bare)[1]?.placement, 1, 2, 3)).toEqual([1, 2, 3]);
	});
});

describe("solids through mapped items", () => {
	const solid =
		"#90=MANIFOLD_SOLID_BREP('body',#9);#91=ADVANCED_BREP_SHAPE_REPRESENTATION('',(#90),#6);#92=REPRESENTATION_MAP(#13,#91);";

	it("are placed by a frame", () => {
		const target = "#80=CARTESIAN_POINT('',(0.,0.,7.));#81=AXIS2_PLACEMENT_3D('',#80,#11,#12);#82=MAPPED_ITEM('',#92,#81);";
		const [bracket] = read([solid, target, product(100, "Twin", "#82", "SHAPE_REPRESENTATION")]).products;
		expect(place(bracket?.solids[0]?.placement, 0, 0, 0)).toEqual([0, 0, 0.007]);
	});

	it("and mirrored by an operator: a left hand, not a half turn", () => {
		const target = "#83=CARTESIAN_TRANSFORMATION_OPERATOR_3D('','','',#15,#14,#10,1.,#11);#82=MAPPED_ITEM('',#92,#83);";
		const [twin] = read([solid, target, product(100, "Twin", "#82", "SHAPE_REPRESENTATION")]).products;
		expect(place(twin?.solids[0]?.placement, 1, 2, 3)).toEqual([-1, 2, 3]);
	});

	it("a scale is refused: it would change the mass", () => {
		const target = "#83=CARTESIAN_TRANSFORMATION_OPERATOR_3D('','','',#12,#14,#10,2.,#11);#82=MAPPED_ITEM('',#92,#83);";
		const result = readStep(step([solid, target, product(100, "Twin", "#82", "SHAPE_REPRESENTATION")]));
		expect(result.ok ? "ok" : result.issues[0]?.code).toBe("scaled-placement");
	});

	it("a map of itself is refused", () => {
		const loop = "#90=MANIFOLD_SOLID_BREP('body',#9);#93=MAPPED_ITEM('',#94,#13);#94=REPRESENTATION_MAP(#13,#104);";
		const result = readStep(step([loop, product(100, "Loop", "#90,#93", "SHAPE_REPRESENTATION")]));
		expect(result.ok ? "ok" : result.issues[0]?.code).toBe("assembly-loop");
	});
});

describe("products", () => {
	it("may hold several solids, and find theirs through a plain relationship", () => {
		const lines = [
			"#90=MANIFOLD_SOLID_BREP('core',#9);#95=MANIFOLD_SOLID_BREP('skin',#9);",
			"#96=ADVANCED_BREP_SHAPE_REPRESENTATION('',(#90,#95),#6);#97=SHAPE_REPRESENTATION_RELATIONSHIP('','',#104,#96);",
			product(100, "Panel", "#13", "SHAPE_REPRESENTATION"),
		];
		expect(read(lines).products[0]?.solids.map((s) => s.name)).toEqual(["core", "skin"]);
	});

	it("a solid that no product claims becomes one of its own", () => {
		const model = read(["#90=MANIFOLD_SOLID_BREP('stray',#9);#95=MANIFOLD_SOLID_BREP('kept',#9);", product(100, "Panel", "#95")]);
		expect(model.products.map((p) => [p.name, p.solids.length])).toEqual([
			["Panel", 1],
			["stray", 1],
		]);
		expect(model.roots.length).toBe(2);
	});

	it("without a name go by their id", () => {
		const nameless = product(100, "", "#90").replace("'-id',''", "'P-7',''");
		expect(read(["#90=MANIFOLD_SOLID_BREP('',#9);", nameless]).products[0]?.name).toBe("P-7");
	});
});
