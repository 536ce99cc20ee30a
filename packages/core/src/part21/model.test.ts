import { describe, expect, it } from "vitest";
import { apply, type Placement } from "../mass";
import { leftOutInWords, occurrences, readStep, type StepModel } from "./index";

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

describe("nothing is guessed", () => {
	const solid = "#90=MANIFOLD_SOLID_BREP('body',#9);";
	const child = product(100, "Bracket", "#90");
	const parent = (items: string): string => product(200, "Frame", items, "SHAPE_REPRESENTATION");
	const usage = "#300=NEXT_ASSEMBLY_USAGE_OCCURRENCE('1','Bracket:1','',#202,#102,$);";
	const shape = "#301=PRODUCT_DEFINITION_SHAPE('','',#300);";
	const relation = (operator: string): string =>
		`${usage}${shape}${operator}
#303=(REPRESENTATION_RELATIONSHIP('','',#104,#204)REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION(#302)SHAPE_REPRESENTATION_RELATIONSHIP());
#304=CONTEXT_DEPENDENT_SHAPE_REPRESENTATION(#303,#301);`;
	const refused = (lines: readonly string[]): readonly unknown[] => {
		const result = readStep(step(lines));
		return result.ok
			? ["ok"]
			: [result.issues[0]?.code, result.issues[0]?.line !== undefined, result.issues[0]?.path?.split(" ")[0]];
	};
	const placed = (operator: string): readonly unknown[] => refused([solid, child, parent("#13"), relation(operator)]);

	it.each([
		["a point where a frame belongs", "#302=ITEM_DEFINED_TRANSFORMATION('','',#10,#13);", "bad-placement", "#10"],
		["no second frame", "#302=ITEM_DEFINED_TRANSFORMATION('','',#13,$);", "bad-placement", undefined],
		["three parameters", "#302=ITEM_DEFINED_TRANSFORMATION('',#13,#13);", "missing-parameter", "#302"],
		[
			"a direction of length zero",
			"#16=DIRECTION('',(0.,0.,0.));#17=AXIS2_PLACEMENT_3D('',#10,#16,#12);#302=ITEM_DEFINED_TRANSFORMATION('','',#13,#17);",
			"bad-placement",
			"#16",
		],
		[
			"parallel directions",
			"#17=AXIS2_PLACEMENT_3D('',#10,#11,#11);#302=ITEM_DEFINED_TRANSFORMATION('','',#13,#17);",
			"bad-placement",
			"#17",
		],
		[
			"a direction where the origin belongs",
			"#17=AXIS2_PLACEMENT_3D('',#11,#11,#12);#302=ITEM_DEFINED_TRANSFORMATION('','',#13,#17);",
			"bad-placement",
			"#17",
		],
		[
			"two coordinates",
			"#16=CARTESIAN_POINT('',(0.,0.));#17=AXIS2_PLACEMENT_3D('',#16,#11,#12);#302=ITEM_DEFINED_TRANSFORMATION('','',#13,#17);",
			"bad-placement",
			"#16",
		],
		[
			"an operator with an axis too few",
			"#302=CARTESIAN_TRANSFORMATION_OPERATOR_3D('',$,#12,#14,#10,1.);",
			"bad-placement",
			"#302",
		],
		[
			"an operator without most of it",
			"#302=CARTESIAN_TRANSFORMATION_OPERATOR_3D('',#12,#14,#10,1.);",
			"missing-parameter",
			"#302",
		],
		[
			"an operator that squeezes two axes into one",
			"#302=CARTESIAN_TRANSFORMATION_OPERATOR_3D('','',#12,#12,#10,1.,#11);",
			"bad-placement",
			"#302",
		],
		[
			"an operator of parts with one missing",
			"#302=(CARTESIAN_TRANSFORMATION_OPERATOR(#12,#14,#10)CARTESIAN_TRANSFORMATION_OPERATOR_3D(#11)REPRESENTATION_ITEM(''));",
			"missing-parameter",
			"#302",
		],
		["something else as a transformation", "#302=DIRECTION('',(1.,0.,0.));", "bad-placement", "#302"],
	])("%s is refused with line and entity", (_, operator, code, entity) => {
		expect(placed(operator)).toEqual([code, code !== "bad-placement" || entity !== undefined, entity]);
	});

	it("an operator of parts, and one with a name only, are read like the long one", () => {
		for (const operator of [
			"#302=(CARTESIAN_TRANSFORMATION_OPERATOR(#12,#14,#20,1.)CARTESIAN_TRANSFORMATION_OPERATOR_3D(#11)REPRESENTATION_ITEM(''));",
			"#302=CARTESIAN_TRANSFORMATION_OPERATOR_3D('',#12,#14,#20,1.,#11);",
			"#302=CARTESIAN_TRANSFORMATION_OPERATOR_3D('','','',#12,#14,#20,$,#11);",
		]) {
			const at = "#20=CARTESIAN_POINT('',(5.,0.,0.));";
			const model = read([solid, child, parent("#13"), at, relation(operator)]);
			expect(place(occurrences(model)[1]?.placement, 0, 0, 0)).toEqual([0.005, 0, 0]);
		}
	});

	it("a part that nothing places is refused; one that has no shape anywhere may stand anywhere", () => {
		expect(refused([solid, child, parent("#13"), usage])).toEqual(["bad-placement", true, "#300"]);
		expect(refused([solid, child, parent("#13"), usage, shape])).toEqual(["bad-placement", true, "#300"]);
		const empty = product(100, "Label", "#13", "SHAPE_REPRESENTATION");
		expect(refused([solid, product(400, "Body", "#90"), empty, parent("#13"), usage])).toEqual(["ok"]);
		expect(refused([solid, child, parent("#13"), "#300=NEXT_ASSEMBLY_USAGE_OCCURRENCE('1','x','',#202,#13,$);"])).toEqual([
			"bad-placement",
			true,
			"#300",
		]);
	});

	it("a mapped item beside an assembly usage is the same part, not a second one; alone it says where the usage stands", () => {
		const mapped =
			"#20=CARTESIAN_POINT('',(0.,0.,7.));#21=AXIS2_PLACEMENT_3D('',#20,#11,#12);#92=REPRESENTATION_MAP(#13,#104);#82=MAPPED_ITEM('',#92,#21);";
		const both = read([solid, child, mapped, parent("#13,#82"), relation("#302=ITEM_DEFINED_TRANSFORMATION('','',#13,#21);")]);
		expect(both.products.map((p) => [p.name, p.solids.length, p.children.length])).toEqual([
			["Bracket", 1, 0],
			["Frame", 0, 1],
		]);
		const alone = read([solid, child, mapped, parent("#13,#82"), usage]);
		expect(alone.products.map((p) => p.solids.length)).toEqual([1, 0]);
		expect(place(occurrences(alone)[1]?.placement, 0, 0, 0)).toEqual([0, 0, 0.007]);
	});

	it("a file without a unit of length, or with one that is not known, is refused; a kilometre is one", () => {
		const unit = (text: string): readonly unknown[] => {
			const result = readStep(step([solid, child]).replace("SI_UNIT(.MILLI.,.METRE.)", text));
			return result.ok ? [result.value.lengthUnit] : [result.issues[0]?.code, result.issues[0]?.actual];
		};
		expect(unit("SI_UNIT(.KILO.,.METRE.)")).toEqual([1000]);
		expect(unit("SI_UNIT($,.METRE.)")).toEqual([1]);
		expect(unit("SI_UNIT(.MYRIA.,.METRE.)")).toEqual(["unknown-length-unit", "the prefix MYRIA"]);
		expect(unit("CONVERSION_BASED_UNIT('CUBIT',$)")).toEqual(["unknown-length-unit", "the unit CUBIT"]);
		// defined by others up to five deep; a unit that is defined by itself is none
		const chain = (depth: number): string => {
			const links = Array.from({ length: depth }, (_, k) => {
				const [own, measure, below] = [9000 + 2 * k, 9001 + 2 * k, k === depth - 1 ? 8999 : 9002 + 2 * k];
				return `#${own}=(CONVERSION_BASED_UNIT('U${k}',#${measure})LENGTH_UNIT()NAMED_UNIT($));#${measure}=LENGTH_MEASURE_WITH_UNIT(LENGTH_MEASURE(2.),#${below});`;
			});
			return `#8999=(LENGTH_UNIT()NAMED_UNIT(*)SI_UNIT($,.METRE.));${links.join("")}`;
		};
		const chained = (depth: number) => {
			const text = step([solid, child]);
			const defined = text
				.replace(/#1=\([^;]*\);/, (line) => `${line}${chain(depth)}`)
				.replace("GLOBAL_UNIT_ASSIGNED_CONTEXT((#1", "GLOBAL_UNIT_ASSIGNED_CONTEXT((#9000");
			const result = readStep(defined);
			return result.ok ? result.value.lengthUnit : result.issues[0]?.actual;
		};
		expect([1, 2, 5].map(chained)).toEqual([2, 4, 32]);
		expect(chained(6)).toBe("the unit U5");
		const bare = step([solid, child]).replace("GLOBAL_UNIT_ASSIGNED_CONTEXT((#1))", "");
		const none = readStep(bare);
		expect(none.ok ? "ok" : none.issues[0]?.code).toBe("no-length-unit");
	});

	it("surfaces and wires beside solids are named; a file of nothing else says what it holds", () => {
		const others = `#60=SHELL_BASED_SURFACE_MODEL('Skin',(#61));#61=OPEN_SHELL('',());#62=SHELL_BASED_SURFACE_MODEL('',(#61));
#63=GEOMETRIC_CURVE_SET('Axis',(#10));#64=TESSELLATED_SOLID('Facets',(#65),$);#65=COMPLEX_TRIANGULATED_FACE('',$,0,(),(),(),());`;
		const model = read([solid, product(100, "Bracket", "#90,#60,#62,#63,#64"), others]);
		expect(model.products[0]?.solids).toHaveLength(1);
		expect(model.leftOut.map((l) => [l.name, l.what])).toEqual([
			["Skin", "surface body"],
			["", "surface body"],
			["Axis", "set of curves"],
			["Facets", "body of triangles"],
		]);
		expect(leftOutInWords(model.leftOut)).toBe("2 surface bodies, 1 set of curves, 1 body of triangles");
		const nothing = readStep(step([product(100, "Skin", "#60", "SHAPE_REPRESENTATION"), others.split("\n")[0] as string]));
		expect(nothing.ok ? null : nothing.issues[0]).toMatchObject({ code: "no-solids", actual: "2 surface bodies" });
	});

	it("radii of nothing and an empty DATA section are said", () => {
		const circle = (radius: string): readonly unknown[] => refused([solid, child, `#60=CIRCLE('',#13,${radius});`]);
		expect([circle("0."), circle("-2."), circle("2.")]).toEqual([
			["bad-radius", true, "#60"],
			["bad-radius", true, "#60"],
			["ok"],
		]);
		const empty = readStep("ISO-10303-21;\nHEADER;\nENDSEC;\nDATA;\nENDSEC;\nEND-ISO-10303-21;\n");
		expect(empty.ok ? null : empty.issues[0]).toMatchObject({ code: "empty-data" });
	});
});
