import type { LibraryRole } from "./index";

/** A grant with the name of whom it is for; `everyone` has none. */
export type NamedGrant = {
	readonly by: "person" | "team" | "everyone";
	readonly name: string;
	readonly role: LibraryRole;
};

/**
 * Who can see and change a library, as one would say it. Stronger roles hold the weaker ones, so nobody is named twice.
 * @example "Everyone here reads it. Okke Brandal and the Engineering team draft and publish. Maren Vosk keeps it."
 */
export function rightsSentence(grants: readonly NamedGrant[], owner: string, supplied: boolean): string {
	const of = (role: LibraryRole): string[] => {
		const chosen = grants.filter((g) => g.role === role);
		if (chosen.some((g) => g.by === "everyone")) return ["everyone here"];
		return chosen.map((g) => (g.by === "team" ? `the ${g.name} team` : g.name)).sort();
	};
	const [readers, editors, stewards] = [of("reader"), of("editor"), of("steward")];
	const sentences: string[] = [];
	const say = (who: readonly string[], one: string, many: string): void => {
		if (who.length > 0) sentences.push(`${capital(listed(who))} ${isOne(who) ? one : many}.`);
	};
	say(readers, "reads it", "read it");
	// nobody changes what is supplied; its stewards say who reads it
	if (supplied) say([...new Set([...editors, ...stewards])], "says who reads it", "say who reads it");
	else {
		say(editors, "drafts and publishes", "draft and publish");
		say(stewards, "is its steward", "are its stewards");
	}
	if (owner !== "") sentences.push(`${owner} keeps it.`);
	if (grants.length === 0) sentences.unshift("Nobody but an administrator sees it.");
	return sentences.join(" ");
}

/** A team and everyone are one, as one speaks of them. */
const isOne = (who: readonly string[]): boolean => who.length === 1;

function listed(names: readonly string[]): string {
	return names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
}

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
