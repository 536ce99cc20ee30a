/** Words behind the command: flags with a value, switches, and the rest. */
export type Arguments = { readonly words: readonly string[]; readonly flags: ReadonlyMap<string, string> };

const SWITCHES = new Set(["--json", "--help", "--list"]);

/** Flags take the next word, switches stand alone. */
export function parseArguments(argv: readonly string[]): Arguments {
	const words: string[] = [];
	const flags = new Map<string, string>();
	for (let i = 0; i < argv.length; i++) {
		const word = argv[i] as string;
		if (SWITCHES.has(word)) flags.set(word, "");
		else if (word.startsWith("--")) flags.set(word, argv[++i] ?? "");
		else words.push(word);
	}
	return { words, flags };
}
