import type { OwnKey } from "../stores/preferences";

type Press = Pick<KeyboardEvent, "key" | "code" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">;

/** Letters, digits and F-keys: what every keyboard has, and what is no sign that somebody types. */
const BINDABLE = /^(Key[A-Z]|Digit\d|F([1-9]|1[0-2]))$/;

/** What was pressed, as it is bound and as it is shown; null while only Ctrl, Alt or Shift are held, or for a key that cannot be bound. */
export function ownKeyOf(e: Press): OwnKey | null {
	if (!BINDABLE.test(e.code)) return null;
	const held = [e.ctrlKey || e.metaKey ? "$mod" : "", e.altKey ? "Alt" : "", e.shiftKey ? "Shift" : ""].filter((h) => h !== "");
	const key = e.code.replace(/^(Key|Digit)/, "");
	return { keys: [...held, e.code].join("+"), shown: [...held.map((h) => (h === "$mod" ? "Ctrl" : h)), key].join(" ") };
}

/** Keys that browsers keep for themselves, and those that mean something everywhere in Alvek or in every text. */
const TAKEN: Readonly<Record<string, string>> = {
	...Object.fromEntries(
		["N", "T", "W", "Shift N", "Shift T", "Shift W", "R", "Shift R", "L", "P", "F", "S", "D", "O", "J", "H", "U"].map((k) => [
			`Ctrl ${k}`,
			"the browser",
		]),
	),
	...Object.fromEntries(["F1", "F3", "F5", "F6", "F7", "F10", "F11", "F12"].map((k) => [k, "the browser"])),
	...Object.fromEntries(["A", "C", "V", "X", "Y", "B", "I"].map((k) => [`Ctrl ${k}`, "texts"])),
	"Ctrl K": "the finder",
	"Ctrl Z": "taking back",
	"Ctrl Shift Z": "taking back",
};

/**
 * Why an action cannot have this key; null where it can.
 * @param others names of actions by the key that they have already
 */
export function whyNot(key: OwnKey, others: ReadonlyMap<string, string>): string | null {
	if (!/^(\$mod|Alt)\+|^F\d+$|^Shift\+F\d+$/.test(key.keys)) return `${key.shown} alone is typing: hold Ctrl or Alt with it.`;
	if (/^\$mod\+Digit\d$/.test(key.keys)) return `${key.shown} belongs to the browser. Choose another one.`;
	const taken = TAKEN[key.shown];
	if (taken !== undefined) return `${key.shown} belongs to ${taken}. Choose another one.`;
	const other = others.get(key.keys);
	return other === undefined ? null : `${key.shown} is “${other}” already. Take it away there first.`;
}
