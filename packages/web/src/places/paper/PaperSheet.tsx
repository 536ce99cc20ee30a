import { hatchOf } from "@alvek/core/look";
import type { Check, Material, Readiness } from "@alvek/core/material";
import { familyName } from "@alvek/core/property";
import { PURPOSE_WORD, sizeText } from "../../shared/fileWords";
import { useUnitSet } from "../../stores/preferences";
import { HatchSwatch } from "../../ui/look/Hatched";
import { hatchWord, lookWords } from "../../ui/look/words";
import { missingText, nameOfUse } from "../../ui/marks";
import { SymbolText } from "../../ui/Quantity";
import { type PaperLine, paperSections, paperTable, sourcesOf } from "./content";
import { PaperChart } from "./PaperChart";

export type Printed = {
	readonly key: string;
	readonly name: string;
	readonly library: string;
	readonly group: string;
	readonly itemCode: string;
	readonly revision: number;
	readonly draft: boolean;
	readonly note: string;
	readonly at: string;
	/** `published by Maren Vosk, approved by Okke Brandal`; empty for a draft. */
	readonly by: string;
	readonly hash: string;
	readonly material: Material;
	readonly readiness: readonly Readiness[];
	readonly checks: readonly Check[];
};

/** One material on paper: all that the sheet holds, in words where the screen has marks and colours. */
export function PaperSheet({ printed }: { printed: Printed }) {
	const { material } = printed;
	const unitSet = useUnitSet();
	const sources = sourcesOf(material);
	const open = printed.checks.filter((c) => c.acknowledged === undefined);
	const ready = printed.readiness.filter((r) => r.state === "ready").map((r) => nameOfUse(r));
	const doubts = printed.readiness.filter((r) => r.state === "doubts");
	return (
		<article className="paper-sheet" aria-label={printed.name}>
			<header className="flex items-start gap-2.5 border-b-2 border-black pb-1.5">
				<div className="min-w-0 flex-1">
					<h2 className="text-2xl leading-5.75 font-extrabold">{printed.name}</h2>
					<p>{[printed.library, printed.group, printed.itemCode].filter((w) => w !== "").join(" · ")}</p>
				</div>
				<div className="text-right leading-3.75">
					<p className="text-lg font-bold">{printed.draft ? "DRAFT, not published" : `Revision ${printed.revision}`}</p>
					<p>{printed.at.slice(0, 10)}</p>
					{printed.by !== "" && <p>{printed.by}</p>}
					{printed.hash !== "" && <p className="text-2xs">content {printed.hash.slice(0, 16)}</p>}
				</div>
			</header>
			<Facts printed={printed} />
			<p className="mt-1.5">
				<b>Ready for:</b> {ready.length === 0 ? "nothing without doubts" : ready.join(", ")}.
				{doubts.length > 0 && <> With doubts: {doubts.map((r) => `${nameOfUse(r)} (${r.doubts.join("; ")})`).join(", ")}.</>}
			</p>
			<Missing readiness={printed.readiness} />
			{open.length > 0 && (
				<p className="mt-0.75">
					<b>Checks open:</b> {open.map((c) => `${c.title} (${c.severity})`).join("; ")}.
				</p>
			)}
			{paperSections(material, unitSet).map((section) => (
				<section key={section.name} className="mt-3">
					<h3 className="paper-head">{section.name}</h3>
					<table className="w-full border-collapse">
						<thead className="sr-only">
							<tr>
								<th>Symbol</th>
								<th>Property</th>
								<th>Value</th>
								<th>Unit</th>
								<th>About it</th>
								<th>Source</th>
							</tr>
						</thead>
						<tbody>
							{section.lines.map((line) => (
								<Line key={line.id} line={line} />
							))}
						</tbody>
					</table>
					{section.series.map((value) => {
						const table = paperTable(value, unitSet);
						return (
							<div key={value.id} className="mt-1.5">
								<PaperChart value={value} material={material} />
								{table !== null && (
									<table className="paper-table">
										<thead>
											<tr>
												{table.head.map((h) => (
													<th key={h}>{h}</th>
												))}
											</tr>
										</thead>
										<tbody>
											{table.rows.map((row) => (
												<tr key={row.join(" ")}>
													{row.map((cell, c) => (
														<td key={table.head[c]}>{cell}</td>
													))}
												</tr>
											))}
										</tbody>
									</table>
								)}
								{table !== null && table.left > 0 && (
									<p className="text-2xs">{table.left} points between these are left out here.</p>
								)}
							</div>
						);
					})}
				</section>
			))}
			<Ends printed={printed} sources={sources} />
		</article>
	);
}

function Line({ line }: { line: PaperLine }) {
	return (
		<tr className="border-b border-[#999] align-baseline break-inside-avoid">
			<td className="w-[9mm] py-0.5">{line.symbol !== "" && <SymbolText symbol={line.symbol} />}</td>
			<td className="w-[52mm]">{line.name}</td>
			<td className="w-[34mm] text-right font-bold pr-[2mm]">{line.value}</td>
			<td className="w-[20mm]">{line.unit}</td>
			<td className="text-2xs leading-3">{line.about}</td>
			<td className="w-[8mm] text-right text-2xs">{line.source !== null && `[${line.source}]`}</td>
		</tr>
	);
}

function Facts({ printed }: { printed: Printed }) {
	const { material } = printed;
	const { price } = material;
	const facts: readonly (readonly [string, string])[] = [
		["Family", material.family === null ? "unspecified" : (familyName(material.family) ?? material.family)],
		["Condition", material.condition],
		["Product form", material.productForm],
		["Supplier", material.supplier],
		["Designations", material.designations.map((d) => (d.system ? `${d.system}: ${d.text}` : d.text)).join("; ")],
		["Price", price === null ? "" : `${price.amount} ${price.currency}/kg, ${price.date}`],
		["Note of this revision", printed.note],
	];
	return (
		<>
			<dl className="grid grid-cols-2 gap-x-[8mm] mt-1.5">
				{facts
					.filter(([, text]) => text !== "")
					.map(([name, text]) => (
						<div key={name} className="flex gap-1.5">
							<dt className="w-[28mm] shrink-0">{name}</dt>
							<dd className="font-semibold">{text}</dd>
						</div>
					))}
			</dl>
			{material.description !== "" && <p className="mt-1.5 whitespace-pre-wrap">{material.description}</p>}
		</>
	);
}

function Missing({ readiness }: { readiness: readonly Readiness[] }) {
	const lacking = readiness.filter((r) => r.state === "not-ready" && r.missing.length > 0).slice(0, 4);
	if (lacking.length === 0) return null;
	return (
		<p className="mt-0.5">
			<b>Not ready for:</b> {lacking.map((r) => `${nameOfUse(r)} (${missingText(r)} missing)`).join("; ")}.
		</p>
	);
}

function Ends({ printed, sources }: { printed: Printed; sources: readonly string[] }) {
	const { material } = printed;
	const hatch = hatchOf(material);
	const files = Object.values(material.attachments);
	return (
		<>
			{material.composition.length > 0 && (
				<section className="mt-3 break-inside-avoid">
					<h3 className="paper-head">Composition, mass %</h3>
					<p>
						{material.composition
							.map((c) => `${c.name} ${c.balance ? "balance" : c.min === c.max ? c.min : `${c.min || "0"}–${c.max || "…"}`}`)
							.join(", ")}
					</p>
				</section>
			)}
			{sources.length > 0 && (
				<section className="mt-3">
					<h3 className="paper-head">Sources</h3>
					<ol>
						{sources.map((text, i) => (
							<li key={text} className="break-inside-avoid">
								[{i + 1}] {text}
							</li>
						))}
					</ol>
				</section>
			)}
			{files.length > 0 && (
				<section className="mt-3 break-inside-avoid">
					<h3 className="paper-head">Attachments</h3>
					<ul>
						{files.map((f) => (
							<li key={f.hash}>
								{f.name}, {PURPOSE_WORD[f.purpose]}, {sizeText(f.bytes)}, version {f.version}, SHA-256 {f.hash.slice(0, 16)}
								{f.note !== "" && `: ${f.note}`}
							</li>
						))}
					</ul>
				</section>
			)}
			<section className="mt-3 break-inside-avoid">
				<h3 className="paper-head">Look</h3>
				<p className="flex items-center gap-2">
					<HatchSwatch hatch={hatch} /> hatch {hatchWord(hatch)} at {hatch.angle_deg}°; {material.colour},{" "}
					{lookWords({ ...material.look, hatch: null })}
				</p>
			</section>
			{material.notes !== "" && (
				<section className="mt-3">
					<h3 className="paper-head">Notes</h3>
					<p className="whitespace-pre-wrap">{material.notes}</p>
				</section>
			)}
		</>
	);
}
