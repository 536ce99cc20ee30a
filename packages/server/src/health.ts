import { statfs } from "node:fs/promises";
import type { Health } from "@alvek/contract";
import { fail, ok, type Result } from "@alvek/core/result";
import { may } from "@alvek/core/rights";
import type { BackupState } from "./backup";
import type { Context, Db } from "./db";
import { newestMigration } from "./repo";

export type { Health };

/** Less room than this and a large import may no longer fit. */
const LEAST_FREE_BYTES = 512 * 1024 * 1024;

/** How the installation is doing. Low room is told but does not make it unfit to answer; a damaged database does. */
export async function healthOf(
	parts: { readonly db: Db; readonly dataDir: string; readonly version: string; readonly backups?: BackupState },
	now: number,
): Promise<Health> {
	const answers = await newestMigration(parts.db).then(
		(name) => name !== null,
		() => false,
	);
	const free = await statfs(parts.dataDir).then(
		(s) => s.bavail * s.bsize,
		() => 0,
	);
	const { state } = parts.db;
	const { backups } = parts;
	const ok = answers && !state.damaged;
	const refused = state.refused?.code ?? null;
	return {
		ok,
		version: parts.version,
		database: { ok, damaged: state.damaged, commits: state.commits },
		queue: { waiting: state.waiting },
		disk: { ok: free >= LEAST_FREE_BYTES && refused === null, free_bytes: free, refused },
		backup:
			backups === undefined
				? null
				: {
						ok: backups.failed === null && backups.last !== null,
						age_s: backups.last === null ? null : Math.round((now - Date.parse(backups.last)) / 1000),
						failed: backups.failed,
					},
	};
}

/** What everybody may know: which part is unwell, no figures. */
export function healthInWords(health: Health): Readonly<Record<string, unknown>> {
	const word = (ok: boolean): string => (ok ? "ok" : "unwell");
	return {
		ok: health.ok,
		version: health.version,
		database: health.database.damaged ? "damaged" : word(health.database.ok),
		queue: health.queue.waiting < 100 ? "ok" : "long",
		disk: health.disk.refused !== null ? "saves are refused" : health.disk.ok ? "ok" : "nearly full",
		backup: health.backup === null ? "not scheduled" : word(health.backup.ok),
	};
}

/** With figures, for administrators. */
export async function readHealth(ctx: Context, health: () => Promise<Health>): Promise<Result<Health>> {
	const refused = may(ctx.actor, "installation.watch", { kind: "installation" });
	return refused === null ? ok(await health()) : fail(refused);
}
