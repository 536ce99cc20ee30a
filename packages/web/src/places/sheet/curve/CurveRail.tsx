import { interpolate, rebaseExpansion, resample, secantFromInstantaneous } from "@alvek/core/curve";
import { judge } from "@alvek/core/judge";
import {
	derivedForms,
	holdsOutside,
	type Material,
	memberPoints,
	members,
	readSeries,
	rowPoints,
	type SeriesValue,
} from "@alvek/core/material";
import { formById, propertyById } from "@alvek/core/property";
import { parseQuantity } from "@alvek/core/quantity";
import { Check, Minus } from "lucide-react";
import { useState } from "react";
import { columnInfo, type Local } from "../../../shared/chart/columns";
import { useUnitSet } from "../../../stores/preferences";
import { nameOfUse } from "../../../ui/marks";
import { inUnit, plainUnit } from "../../../ui/Quantity";
import { useSheet } from "../context";
import { Findings, MODULUS } from "./Findings";

type Props = {
	local: Local;
	property: string;
	material: Material;
	/** What is on screen, when it reads. */
	value: SeriesValue | null;
	stored: SeriesValue | null;
	onChange: ((next: Local, label: string) => void) | null;
};

/** What the curve is, what follows from it, what looks wrong, what happens outside, what it makes ready. */
export function CurveRail({ local, property, material, value, stored, onChange }: Props) {
	return (
		<aside
			aria-label="What this curve is"
			className="w-71.5 shrink-0 bg-paper border-l border-line px-4 py-3.5 overflow-y-auto max-md:hidden"
		>
			<HeaderLines local={local} property={property} onChange={onChange} />
			{value !== null && <Probe value={value} />}
			{value !== null && property === "thermal_expansion" && <Rebased value={value} />}
			{value !== null && property === "stress_strain" && <DerivedLines material={material} value={value} />}
			<Findings material={material} stored={stored} />
			<Outside property={property} />
			<ReadyFor material={material} property={property} />
		</aside>
	);
}

function HeaderLines({ local, property, onChange }: Pick<Props, "local" | "property" | "onChange">) {
	const form = formById(property);
	const put = (id: string, text: string): void => {
		const { [id]: _before, ...rest } = local.header;
		onChange?.({ ...local, header: text === "" ? rest : { ...rest, [id]: text } }, "header changed");
	};
	const fields =
		form?.kind === "curve" ? form.headers : property === "thermal_expansion" ? [{ id: "reference", name: "Counted from" }] : [];
	const conditions = new Set(local.columns.map((c) => c.of));
	return (
		<>
			<h2 className="font-bold mb-1">What this {local.kind} is</h2>
			<dl>
				{fields
					// a condition that has a column of its own is said there
					.filter(
						(f) =>
							!(f.id === "temperature" && conditions.has("temperature")) && !(f.id === "rate" && conditions.has("strain_rate")),
					)
					.map((field) => {
						const said = local.header[field.id] ?? "";
						return (
							<div key={field.id} className="flex items-center min-h-7 gap-2">
								<dt className="w-23 shrink-0 text-ink2">{field.name}</dt>
								<dd className="flex-1 min-w-0">
									{"options" in field && field.options !== undefined ? (
										<select
											aria-label={field.name}
											className={`bg-transparent w-full h-6.5 ${said === "" ? "text-doubt" : ""}`}
											disabled={onChange === null}
											value={said}
											onChange={(e) => put(field.id, e.target.value)}
										>
											<option value="" className="bg-card text-ink">
												unknown
											</option>
											{field.options.map((o) => (
												<option key={o.id} value={o.id} className="bg-card text-ink">
													{o.name}
												</option>
											))}
										</select>
									) : (
										<input
											aria-label={field.name}
											key={said}
											className="bg-transparent w-full h-6.5 border border-transparent hover:border-line rounded-md px-1 -ml-1.5 placeholder:text-doubt"
											placeholder="unknown"
											defaultValue={said}
											maxLength={200}
											readOnly={onChange === null}
											onBlur={(e) => e.target.value.trim() !== said && put(field.id, e.target.value.trim())}
											onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
										/>
									)}
								</dd>
							</div>
						);
					})}
				<div className="flex items-center min-h-7 gap-2">
					<dt className="w-23 shrink-0 text-ink2">Between points</dt>
					<dd className="flex-1">
						<select
							aria-label="Between points"
							className="bg-transparent w-full h-6.5"
							disabled={onChange === null}
							value={local.interpolation}
							onChange={(e) =>
								onChange?.({ ...local, interpolation: e.target.value as Local["interpolation"] }, "interpolation changed")
							}
						>
							<option value="linear" className="bg-card">
								straight lines
							</option>
							<option value="pchip" className="bg-card">
								PCHIP
							</option>
						</select>
					</dd>
				</div>
			</dl>
		</>
	);
}

/** Reads the curve at a typed place, with what is done outside of it. */
function Probe({ value }: { value: SeriesValue }) {
	const unitSet = useUnitSet();
	const [text, setText] = useState("");
	const [xColumn, yColumn] = [value.columns.at(-2), value.columns.at(-1)];
	if (xColumn === undefined || yColumn === undefined) return null;
	const x = columnInfo(value.property, xColumn.of);
	const y = columnInfo(value.property, yColumn.of);
	const at = text.trim() === "" ? null : parseQuantity(text, x, x.units[unitSet] === "1" ? {} : { fieldUnit: x.units[unitSet] });
	const place = at?.ok ? at.value.low : null;
	const lines = place === null ? [] : members(value).map((m) => readSeries(value, m, place));
	return (
		<div className="mt-3.5">
			<label className="flex items-center gap-2">
				<span className="font-bold">Read it at</span>
				<input
					aria-label={`Read it at a ${x.name.toLowerCase()}`}
					className="field h-6.5! w-27.5!"
					placeholder={plainUnit(x.units[unitSet]) || "number"}
					value={text}
					onChange={(e) => setText(e.target.value)}
				/>
			</label>
			<output className="block mt-0.75">
				{at !== null && !at.ok && <span className="text-wrong">{plainUnit(x.units[unitSet])} is wanted here.</span>}
				{lines.map((r, i) => (
					// biome-ignore lint/suspicious/noArrayIndexKey: members have no other name here
					<span key={i} className="block">
						{r === null ? (
							<span className="text-doubt">outside: nothing is read there</span>
						) : (
							<>
								<b>
									{inUnit(r.y, y, unitSet)} {plainUnit(y.units[unitSet])}
								</b>
								{r.how !== "inside" && (
									<span className="caption"> {r.how === "held" ? "end value held" : "with the slope µ₀"}</span>
								)}
							</>
						)}
					</span>
				))}
			</output>
		</div>
	);
}

/** The secant expansion counted from another temperature: the same lengths, other numbers. */
function Rebased({ value }: { value: SeriesValue }) {
	const unitSet = useUnitSet();
	const [text, setText] = useState("");
	const T = columnInfo(value.property, "temperature");
	const alpha = columnInfo(value.property, "value");
	const read = (typed: string | undefined): number | null => {
		const parsed = typed === undefined || typed.trim() === "" ? null : parseQuantity(typed, T, { fieldUnit: T.units[unitSet] });
		return parsed?.ok ? parsed.value.low : null;
	};
	const [from, to] = [read(value.header.reference), read(text)];
	if (value.columns[0]?.of !== "temperature" || value.columns.length !== 2) return null;
	const instant = value.qualifier === "instantaneous";
	const points = rowPoints(value);
	const at = (t: number): number => interpolate(points, t, value.interpolation)?.y ?? 0;
	return (
		<div className="mt-3.5">
			<label className="flex items-center gap-2">
				<span className="font-bold">Count from</span>
				<input
					aria-label="Count the expansion from another temperature"
					className="field h-6.5! w-27.5!"
					placeholder={plainUnit(T.units[unitSet])}
					value={text}
					onChange={(e) => setText(e.target.value)}
				/>
			</label>
			{to !== null && from === null && !instant && <p className="text-doubt">Say first what the table is counted from.</p>}
			{to !== null && (instant || from !== null) && (
				<>
					<p className="caption mt-0.75">
						{instant ? "mean of α from Tₙ to T" : "[α(T)(T−T₀) − α(Tₙ)(Tₙ−T₀)] / (T−Tₙ)[1 + α(Tₙ)(Tₙ−T₀)]"}
					</p>
					<dl>
						{points.x.map((t) => {
							const counted = instant ? secantFromInstantaneous(points, to, t) : rebaseExpansion(at, t, from as number, to);
							return (
								<div key={t} className="flex">
									<dt className="text-ink2 w-23">
										{inUnit(t, T, unitSet)} {plainUnit(T.units[unitSet])}
									</dt>
									<dd>
										{counted === null ? "outside" : `${inUnit(counted, alpha, unitSet)} ${plainUnit(alpha.units[unitSet])}`}
									</dd>
								</div>
							);
						})}
					</dl>
				</>
			)}
		</div>
	);
}

function DerivedLines({ material, value }: { material: Material; value: SeriesValue }) {
	const unitSet = useUnitSet();
	const derived = derivedForms(material, value);
	const first = derived[0];
	if (first === undefined) return null;
	const total = memberPoints(value, first.member);
	const uniform = total.x[first.valid - 1];
	const fromEngineering = value.header.stress === "engineering";
	return (
		<>
			<h2 className="font-bold mt-4 mb-1">Derived from it</h2>
			{first.missing !== null && <p className="text-doubt">Nothing more yet: {first.missing}.</p>}
			{fromEngineering && first.valid > 0 && (
				<dl className="[&_div]:flex [&_dt]:w-23 [&_dt]:text-ink2 [&_div]:py-0.5">
					<div>
						<dt>true stress</dt>
						<dd>σ (1 + ε)</dd>
					</div>
					<div>
						<dt>true strain</dt>
						<dd>ln (1 + ε)</dd>
					</div>
					<div>
						<dt>plastic strain</dt>
						<dd>
							ln (1 + ε) − σ<sub>t</sub>/E
						</dd>
					</div>
				</dl>
			)}
			{value.header.stress === "true" && value.header.strain === "total-true" && (
				<dl className="[&_div]:flex [&_dt]:w-23 [&_dt]:text-ink2 [&_div]:py-0.5">
					<div>
						<dt>engineering</dt>
						<dd>
							σ<sub>t</sub>/(1 + ε), exp(ε<sub>t</sub>) − 1
						</dd>
					</div>
					<div>
						<dt>plastic strain</dt>
						<dd>
							ε<sub>t</sub> − σ<sub>t</sub>/E
						</dd>
					</div>
				</dl>
			)}
			{first.flow !== null && (
				<p className="caption mt-1">
					With E {inUnit(first.youngsModulus ?? 0, { units: MODULUS }, unitSet)} {plainUnit(MODULUS[unitSet])}.
					{fromEngineering &&
						uniform !== undefined &&
						` Valid to ${inUnit(uniform, columnInfo(value.property, "strain"), unitSet)} %, the largest engineering stress; nothing is derived beyond.`}{" "}
					{first.flow.x.length} points of flow; a solver gets {resample(first.flow, 1e-3).x.length} from PCHIP.
				</p>
			)}
		</>
	);
}

function Outside({ property }: { property: string }) {
	const form = formById(property);
	const spec = propertyById(property);
	const holds = spec !== undefined && holdsOutside(spec);
	const text =
		form?.kind === "curve"
			? form.outside === "vacuum-slope"
				? "Beyond the last point B rises with µ₀, as in vacuum."
				: "Beyond the last point a solver table stops, and the use is not ready there."
			: holds
				? "Outside of the table its end value is held, and that is said wherever it is used."
				: "Outside of the table nothing is read: the use is not ready there.";
	return (
		<>
			<h2 className="font-bold mt-4 mb-0.75">Outside</h2>
			<p className="text-sm leading-4">{text}</p>
		</>
	);
}

const USES_OF: Readonly<Record<string, string>> = {
	stress_strain: "plasticity",
	sn_curve: "fatigue",
	core_loss: "core_loss",
	rubber_test: "rubber",
};

function ReadyFor({ material, property }: { material: Material; property: string }) {
	const use = USES_OF[property];
	const { beside } = useSheet();
	const state = judge(material, beside).readiness.find((r) => r.use === use);
	if (state === undefined) return null;
	const ready = state.state !== "not-ready";
	return (
		<>
			<h2 className="font-bold mt-4 mb-0.75">Ready for</h2>
			<p className="flex gap-2">
				{ready ? (
					<Check size={14} aria-hidden className="text-primary mt-0.5" />
				) : (
					<Minus size={14} aria-hidden className="text-ink3 mt-0.5" />
				)}
				<span>
					{nameOfUse(state)}
					{state.doubts.length > 0 && <span className="caption block">{state.doubts.join("; ")}</span>}
				</span>
			</p>
		</>
	);
}
