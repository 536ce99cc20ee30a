import { resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { describeIssue } from "@alvek/core/result";
import { backUp, backupName, backupsIn, restore, verify } from "./backup";
import { faultOf } from "./db";

// keep.js backup [FILE] | restore FILE | verify: what npm run backup, restore and verify call
const dataDir = process.env.ALVEK_DATA ?? fileURLToPath(new URL("../../../data", import.meta.url));
const [, , what, argument] = process.argv;
const now = new Date().toISOString();

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`;
const counted = (n: number, word: string): string => `${n} ${word}${n === 1 ? "" : "s"}`;

async function run(): Promise<number> {
	switch (what) {
		case "backup": {
			const file = resolve(argument ?? `${backupsIn(dataDir)}/${backupName(now)}`);
			const { manifest, size } = await backUp(dataDir, file, now);
			console.log(
				`${file}\n${megabytes(size)}: the database and ${counted(manifest.blobs.length, "file")}, each with its checksum.`,
			);
			return 0;
		}
		case "restore": {
			if (argument === undefined) break;
			const { manifest, replaced } = await restore(dataDir, resolve(argument), now);
			console.log(`The backup of ${manifest.at} is in ${dataDir}, checked to the last byte.`);
			if (replaced !== null) console.log(`What was there before is kept in ${replaced}.`);
			return 0;
		}
		case "verify": {
			const { wrong, mended, rebuilt, ...counts } = await verify(dataDir);
			for (const line of mended) console.log(line);
			for (const line of wrong) console.error(line);
			if (wrong.length === 0)
				console.log(
					`All well: ${counted(counts.revisions, "revision")}, ${counted(counts.documents, "document")}, ${counted(counts.files, "file")}; ${counted(rebuilt, "derived row")} made anew.`,
				);
			return wrong.length === 0 ? 0 : 1;
		}
	}
	console.error("Say what: backup [FILE], restore FILE, or verify.");
	return 2;
}

process.exitCode = await run().catch((cause) => {
	const fault = faultOf(cause);
	if (fault === null) throw cause;
	console.error(describeIssue(fault));
	return 1;
});
