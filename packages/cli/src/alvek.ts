import { parseArguments } from "./arguments";
import { massCommand } from "./mass";
import { quantityCommand } from "./quantity";

const HELP = `alvek: material data and part masses, for scripts

  alvek quantity TEXT --property ID [--unit UNIT] [--decimal-mark . | ,] [--json]
      reads one value as the value fields do; exit 1 when it is refused
  alvek quantity --batch FILE.csv [--json]
      columns text,property; one line for each row, in order
  alvek quantity --list
      ids of all properties with their SI units
  alvek mass FILE.step --density "2710 kg/m3" [--json]
  alvek mass FILE.step --materials MAP.json [--json]
      MAP.json: { "product id or part name": "density as text" }
      exact volume, area, centroid and inertia of each solid of each occurrence, in assembly coordinates

Only the result goes to stdout. With --json a refusal is { "ok": false, "issues": [...] }.
`;

async function run(argv: readonly string[]): Promise<number> {
	const [command, ...rest] = argv;
	const args = parseArguments(rest);
	if (command === undefined || command === "--help" || command === "help" || args.flags.has("--help")) {
		process.stdout.write(HELP);
		return 0;
	}
	if (command === "quantity") return quantityCommand(args);
	if (command === "mass") return massCommand(args);
	process.stderr.write(`alvek: there is no command “${command}”; see alvek --help\n`);
	return 2;
}

process.exitCode = await run(process.argv.slice(2));
