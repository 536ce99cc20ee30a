import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
	flowCurve,
	fromEngineering,
	increasing,
	initialShearModulus,
	instabilities,
	instability,
	interpolate,
	MODES,
	nominalStress,
	proofStress,
	rebaseExpansion,
	resample,
	secantFromInstantaneous,
	slopeAt,
	statedStretches,
	tangent,
	toEngineering,
} from "./index";

const close = (a: number, b: number, tolerance = 1e-12): void =>
	expect(Math.abs(a - b)).toBeLessThanOrEqual(tolerance * Math.max(1, Math.abs(b)));

describe("interpolation", () => {
	it("meets its points, holds its ends and says on which side", () => {
		const points = { x: [1, 2, 4], y: [10, 14, 8] };
		for (const method of ["linear", "pchip"] as const) {
			for (const [i, x] of points.x.entries()) expect(interpolate(points, x, method)).toEqual({ y: points.y[i], side: "inside" });
			expect(interpolate(points, 0, method)).toEqual({ y: 10, side: "below" });
			expect(interpolate(points, 5, method)).toEqual({ y: 8, side: "above" });
		}
		expect(interpolate({ x: [], y: [] }, 1, "linear")).toBeNull();
		expect(interpolate(points, 3, "linear")?.y).toBe(11);
	});

	it("has the slopes worked out by hand in fractions", () => {
		// x 0 1 3 4, y 0 1 5 6: chords 1, 2, 1. Inside: w1 = 2 h1 + h0 = 5, w2 = h1 + 2 h0 = 4, slope = 9/(5/1 + 4/2) = 9/7
		const points = { x: [0, 1, 3, 4], y: [0, 1, 5, 6] };
		close(slopeAt(points, 1), 9 / 7);
		close(slopeAt(points, 2), 9 / 7);
		// end: ((2 h0 + h1) d0 - h0 d1)/(h0 + h1) = (4*1 - 1*2)/3 = 2/3
		close(slopeAt(points, 0), 2 / 3);
		// chords 1, -5: (3*1 + 5)/2 = 4 is cut back to 3 d0, and so is its mirror image at the other end
		close(slopeAt({ x: [0, 1, 2], y: [0, 1, -4] }, 0), 3);
		close(slopeAt({ x: [0, 1, 2], y: [-4, 1, 0] }, 2), -3);
		// chords 1, 5: (3*1 - 5)/2 = -1 would leave in the other direction, so it leaves flat
		close(slopeAt({ x: [0, 1, 2], y: [0, 1, 6] }, 0), 0);
		// middle of the second piece: (1 + 5)/2 + h (m1 - m2)/8 = 3
		close(interpolate(points, 2, "pchip")?.y ?? 0, 3);
	});

	it("never overshoots, and a straight line stays one (any data)", () => {
		const rows = fc.array(
			fc.tuple(fc.double({ min: -1e3, max: 1e3, noNaN: true }), fc.double({ min: -1e3, max: 1e3, noNaN: true })),
			{ minLength: 2, maxLength: 12 },
		);
		fc.assert(
			fc.property(rows, fc.double({ min: 0, max: 1, noNaN: true }), (data, t) => {
				const points = increasing(
					data.map((d) => Math.round(d[0] * 10)),
					data.map((d) => d[1]),
				);
				fc.pre(points.x.length >= 2);
				for (let k = 1; k < points.x.length; k++) {
					const [x0, x1] = [points.x[k - 1] as number, points.x[k] as number];
					const [y0, y1] = [points.y[k - 1] as number, points.y[k] as number];
					const y = interpolate(points, x0 + t * (x1 - x0), "pchip")?.y as number;
					expect(y).toBeGreaterThanOrEqual(Math.min(y0, y1) - 1e-9);
					expect(y).toBeLessThanOrEqual(Math.max(y0, y1) + 1e-9);
				}
				const line = { x: points.x, y: points.x.map((x) => 3 * x - 7) };
				const place = (points.x[0] as number) + t * ((points.x.at(-1) as number) - (points.x[0] as number));
				close(interpolate(line, place, "pchip")?.y ?? Number.NaN, 3 * place - 7, 1e-9);
			}),
			{ seed: 11, numRuns: 300 },
		);
	});

	it("resampled, straight lines stay within the stated tolerance", () => {
		const points = { x: [0, 1, 2, 5, 9], y: [0, 50, 80, 95, 100] };
		const fine = resample(points, 1e-3);
		for (let i = 0; i <= 900; i++) {
			const x = i / 100;
			const gap = Math.abs((interpolate(points, x, "pchip")?.y ?? 0) - (interpolate(fine, x, "linear")?.y ?? 0));
			expect(gap).toBeLessThanOrEqual(1.2e-3 * 100);
		}
		expect(fine.x.length).toBeLessThan(200);
	});

	it("makes a rising curve of a wandering one: sorted, twins averaged", () => {
		expect(increasing([3, 1, 1, 2], [30, 10, 12, 20])).toEqual({ x: [1, 2, 3], y: [11, 20, 30] });
		expect(increasing([0, 2, 1, 3], [0, 2, 9, 3], "as measured")).toEqual({ x: [0, 2, 3], y: [0, 2, 3] });
	});
});

describe("stress-strain forms", () => {
	it("turn to true and back without loss (closed forms: exp undoes ln)", () => {
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 1, max: 1e9, noNaN: true })), {
					minLength: 1,
					maxLength: 30,
				}),
				(data) => {
					const strain = data.map((d) => d[0]);
					// rising stress, so that uniform strain is the last point
					const stress = data.map((_, i) => 1e6 * (i + 1));
					const forms = fromEngineering(strain, stress, null);
					const back = toEngineering(forms.trueStrain, forms.trueStress);
					for (const [i, e] of back.strain.entries()) close(e, strain[i] as number);
					for (const [i, s] of back.stress.entries()) close(s, stress[i] as number);
				},
			),
			{ seed: 3, numRuns: 200 },
		);
	});

	it("derive nothing beyond the highest engineering stress", () => {
		const forms = fromEngineering([0, 0.1, 0.2, 0.3], [0, 200e6, 220e6, 180e6], 70e9);
		expect(forms.valid).toBe(3);
		expect(forms.trueStress).toHaveLength(3);
		close(forms.trueStress[2] as number, 220e6 * 1.2);
	});

	it("of a Hollomon metal gives back its exponent: at necking, true strain equals n (Considère)", () => {
		const [K, n] = [500e6, 0.2];
		const strain = Array.from({ length: 4001 }, (_, i) => i * 1e-4);
		const stress = strain.map((e) => (K * Math.log1p(e) ** n) / (1 + e));
		const forms = fromEngineering(strain, stress, null);
		expect(Math.abs((forms.trueStrain.at(-1) as number) - n)).toBeLessThan(1e-4);
	});

	it("begin to flow where plastic strain leaves the noise of the digits", () => {
		const flow = flowCurve([0, 2e-8, -8e-8, 2e-7, 2e-6, 5e-5, 4e-5, 1e-3], [0, 10, 20, 30, 40, 50, 51, 60], 5e-7);
		expect(flow).toEqual({ x: [0, 2e-6, 5e-5, 1e-3], y: [30, 40, 50, 60] });
		expect(proofStress(flow)).toBeNull();
		close(proofStress({ x: [0, 0.001, 0.003], y: [100, 110, 130] }) ?? 0, 120, 1e-6);
	});
});

describe("expansion", () => {
	it("re-bases a secant so that the lengths stay the same, checked on lengths (a second method)", () => {
		const T0 = 293.15;
		const alpha = (T: number): number => 17e-6 + 6e-9 * (T - T0);
		const length = (T: number): number => 1 + alpha(T) * (T - T0);
		for (const Tn of [233.15, 293.15, 373.15]) {
			for (const T of [233.15, 300, 473.15]) {
				if (T === Tn) continue;
				const direct = (length(T) / length(Tn) - 1) / (T - Tn);
				close(rebaseExpansion(alpha, T, T0, Tn), direct, 1e-12);
			}
			// the limit at T = Tn is the slope of length there over the length: dL/dT = 17e-6 + 12e-9 (T - T0)
			const limit = (17e-6 + 12e-9 * (Tn - T0)) / length(Tn);
			expect(Math.abs(rebaseExpansion(alpha, Tn, T0, Tn) / limit - 1)).toBeLessThan(1e-9);
		}
	});

	it("takes the mean of an instantaneous one by its exact integral", () => {
		// alpha = 10 + 0.01 (T - 300) in 1e-6/K: mean over 300..500 is 11
		const points = { x: [200, 600], y: [9e-6, 13e-6] };
		close((secantFromInstantaneous(points, 300, 500) ?? 0) * 1e6, 11);
		expect(secantFromInstantaneous(points, 100, 300)).toBeNull();
	});
});

describe("hyperelastic forms", () => {
	it("agree with each other where they are the same solid: Ogden with alpha 2 is neo-Hookean", () => {
		const mu = 0.8e6;
		for (const mode of ["uniaxial", "equibiaxial", "planar"] as const) {
			for (const stretch of [0.6, 0.9, 1, 1.5, 3]) {
				const neo = nominalStress("neo-hookean", { C10: mu / 2 }, mode, stretch);
				close(nominalStress("ogden-2mu-alpha2", { mu1: mu, alpha1: 2 }, mode, stretch), neo);
				close(nominalStress("ogden-mu-alpha", { mu1: mu, alpha1: 2 }, mode, stretch), neo);
			}
		}
		// closed form of the uniaxial neo-Hookean: P = mu (l - l^-2)
		close(nominalStress("neo-hookean", { C10: mu / 2 }, "uniaxial", 2), mu * (2 - 0.25));
	});

	it("have an initial slope of 3 mu uniaxial, 6 mu equibiaxial, 4 mu planar", () => {
		const forms = [
			["mooney-rivlin", { C10: 0.3e6, C01: 0.1e6 }],
			["yeoh", { C10: 0.4e6, C20: -5e3, C30: 100 }],
			["ogden-mu-alpha", { mu1: 0.5e6, alpha1: 1.3, mu2: -2e4, alpha2: -2 }],
		] as const;
		for (const [form, c] of forms) {
			const mu = initialShearModulus(form, c);
			for (const [mode, times] of [
				["uniaxial", 3],
				["equibiaxial", 6],
				["planar", 4],
			] as const) {
				const slope = (nominalStress(form, c, mode, 1 + 1e-5) - nominalStress(form, c, mode, 1 - 1e-5)) / 2e-5;
				expect(Math.abs(slope / (times * mu) - 1)).toBeLessThan(1e-6);
			}
		}
	});

	it("say where they become unstable, and that sound ones are not", () => {
		expect(instability("neo-hookean", { C10: 0.4e6 })).toBeNull();
		expect(instability("mooney-rivlin", { C10: 0.3e6, C01: 0.1e6 })).toBeNull();
		expect(instability("mooney-rivlin", { C10: 0.3e6, C01: -0.15e6 })).not.toBeNull();
		expect(instability("neo-hookean", { C10: -1 })?.stretch).toBe(1);
	});

	it("fail where the answers of another program say, in every mode and on both sides", () => {
		const file = JSON.parse(readFileSync(new URL("../../../../fixtures/lab-rubber.expected.json", import.meta.url), "utf8"));
		type Fit = {
			coefficients_Pa?: Record<string, number>;
			alpha?: number[];
			mu_form_2mu_alpha2_Pa?: number[];
			unstable_beyond: Record<string, Record<string, number | null>>;
		};
		let compared = 0;
		for (const { fits } of Object.values(file.files) as { fits: Record<string, Fit> }[]) {
			for (const [name, fit] of Object.entries(fits)) {
				const form = name.startsWith("ogden") ? "ogden-2mu-alpha2" : name;
				const c =
					fit.coefficients_Pa ??
					Object.fromEntries(
						(fit.alpha ?? []).flatMap((a, i) => [
							[`alpha${i + 1}`, a],
							[`mu${i + 1}`, fit.mu_form_2mu_alpha2_Pa?.[i] ?? 0],
						]),
					);
				const found = instabilities(form, c, [0.1, 10]);
				for (const mode of MODES) {
					for (const side of ["compression", "tension"] as const) {
						const want = fit.unstable_beyond[mode]?.[side] ?? null;
						const got = found.find((f) => f.mode === mode && f.stretch < 1 === (side === "compression"))?.stretch ?? null;
						if (want === null) expect([name, mode, side, got]).toEqual([name, mode, side, null]);
						else expect(Math.abs((got ?? 0) / want - 1), `${name} ${mode} ${side} ${got} ${want}`).toBeLessThan(1e-3);
						compared++;
					}
				}
			}
		}
		expect(compared).toBeGreaterThan(50);
	});

	it("have the slopes of the true stress as their tangent", () => {
		// along one mode the loaded true stress t = P l has dt/d ln l = D11 + D12 d ln l2/d ln l
		for (const [form, c] of [
			["mooney-rivlin", { C10: 0.3e6, C01: 0.1e6 }],
			["yeoh", { C10: 0.4e6, C20: -5e3, C30: 100 }],
			["ogden-mu-alpha", { mu1: 0.5e6, alpha1: 1.3, mu2: -2e4, alpha2: -2 }],
			["ogden-2mu-alpha2", { mu1: 0.4e6, alpha1: 2.7, mu2: 1e5, alpha2: -1.5 }],
		] as const) {
			for (const [mode, sideways] of [
				["uniaxial", -0.5],
				["equibiaxial", 1],
				["planar", 0],
			] as const) {
				for (const l of [0.7, 1.4, 2.2]) {
					const t = (x: number): number => nominalStress(form, c, mode, x) * x;
					const slope = (t(l * (1 + 1e-5)) - t(l * (1 - 1e-5))) / 2e-5;
					const [d11, , d12] = tangent(form, c, mode, l);
					expect(Math.abs(slope / (d11 + sideways * d12) - 1), `${form} ${mode} ${l}`).toBeLessThan(1e-6);
				}
			}
		}
	});

	it("look over the range that the model states", () => {
		expect(statedStretches("fitted for stretch 0.8 to 3")).toEqual([0.8, 3]);
		expect(statedStretches("strain -20 to 200 %")).toEqual([0.8, 3]);
		expect(statedStretches("strain 10 - 50 %")).toEqual([1, 1.5]);
		expect(statedStretches("at 23 °C")).toBeNull();
		const late = { mu1: 0.5e6, alpha1: 1.3, mu2: -2e3, alpha2: 4 };
		expect(instability("ogden-mu-alpha", late, [0.9, 1.2])).toBeNull();
		expect(instability("ogden-mu-alpha", late, [0.5, 6])).not.toBeNull();
	});
});
