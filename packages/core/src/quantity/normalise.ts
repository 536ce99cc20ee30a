const SUPERSCRIPTS: Readonly<Record<string, string>> = {
	"⁰": "0",
	"¹": "1",
	"²": "2",
	"³": "3",
	"⁴": "4",
	"⁵": "5",
	"⁶": "6",
	"⁷": "7",
	"⁸": "8",
	"⁹": "9",
	"⁺": "+",
	"⁻": "-",
};

/**
 * One spelling for what keyboards, web pages and PDFs write in many: superscripts become `^n`, all spaces one space,
 * all minus signs `-`, micro and ohm signs their Greek letters. Plain ASCII passes untouched.
 */
export function normaliseText(text: string): string {
	const trimmed = withoutEquivalent(text.trim());
	// biome-ignore lint/suspicious/noControlCharactersInRegex: the range of ASCII is the point
	if (/^[\x00-\x7f]*$/.test(trimmed)) return /deg/i.test(trimmed) ? degrees(trimmed) : trimmed;
	return (
		degrees(trimmed)
			// an exponent ends at the first plain character: `10⁻⁶1/K` is 10^-6 1/K
			.replace(
				/[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻]+(?=(\d?))/g,
				(run, next) => `^${[...run].map((c) => SUPERSCRIPTS[c]).join("")}${next === "" ? "" : " "}`,
			)
			// `x 10–6`: a dash between a ten behind a product sign and a digit is the exponent's minus
			.replace(/([x×*·⋅∙•]\s*10|\d\s10)–(?=\d)/g, "$1-")
			.replace(/½/g, "^0.5")
			.replace(/[\u00a0\u2000-\u200a\u202f\u205f\u3000\t]/g, " ")
			.replace(/[\u200b\u2060\ufeff]/g, "")
			.replace(/[−‐‑]/g, "-")
			.replace(/µ/g, "μ")
			.replace(/Ω/g, "Ω")
			.replace(/[⋅∙•]/g, "·")
			.replace(/℃/g, "°C")
			.replace(/℉/g, "°F")
			.replace(/º/g, "°")
			.replace(/° (?=[CFR]\b)/g, "°")
			.replace(/’/g, "'")
	);
}

/** `kg CO2e/kg`, `kg CO₂-eq per kg`: what the mass is of is no part of its unit. */
function withoutEquivalent(text: string): string {
	if (!/co[2₂]/i.test(text)) return text;
	return text.replace(/(?<![\p{L}])(kg|g|t|lb)[\s-]*CO[2₂](?:[\s-]?e(?:q(?:uiv)?)?\.?)?(?=\s*(?:\/|per\b|$))/giu, "$1");
}

/** `deg C` is a degree Celsius. */
function degrees(text: string): string {
	return text.replace(/\bdeg\.?\s*(?=[CFR]\b)/gi, "°");
}
