import { parseArguments } from "./arguments";
import { checkCommand } from "./check";
import { MOMENTS, massCommand } from "./mass";
import { pageCommand } from "./page";
import { quantityCommand } from "./quantity";
import { solverCommand } from "./solver";

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
      exact volume, area, centroid and inertia of each solid of each occurrence, in assembly coordinates; bodies that are no
      solids are named as left out, solids whose boundary does not hold together as in doubt
      ${MOMENTS}
  alvek page FILE.txt [--json]
      text copied from a web page or PDF: the values that it proposes, in SI, with what has to be asked and what is left
  alvek check FILE.json [--json]
      what looks wrong with each material of the file, with the slip of units that would explain it; exit 1 when a value is
      refused or a check says wrong; FILE.json as for solver, beside the values "family", "kinds" and "elastic_set"
  alvek solver FILE.json --use linear-static|strength|modal|thermal|thermal-stress|plasticity|rubber|all
               --set m-kg-s|mm-t-s|mm-kg-ms|mm-kg-s|in-lbf-s|in-lbm-s|ft-lbf-s [--json]
      FILE.json: { "materials": [ a material as the API gives it, or { "name", "values": { "density": "8.8 g/cm3" } } ] }

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
	if (command === "page") return pageCommand(args);
	if (command === "check") return checkCommand(args);
	if (command === "solver") return solverCommand(args);
	process.stderr.write(`alvek: there is no command “${command}”; see alvek --help\n`);
	return 2;
}

process.exitCode = await run(process.argv.slice(2));
