import type { Installation } from "@alvek/server";
import { random } from "./crowd";

type Db = Installation["db"];

/** Projects whose parts stand on materials of a crowd, and a history; written straight into the tables. */
export async function projectsOn(
	db: Db,
	many: { readonly projects: number; readonly parts: number; readonly materials: number },
): Promise<{ readonly used: readonly string[] }> {
	const next = random(13);
	const at = "2026-10-01T08:00:00.000Z";
	const pick = (): number => Math.floor(next() * many.materials);
	const used = new Set<string>();
	const put = (sql: Pick<Db, "run">, table: string, columns: string, rows: readonly (readonly unknown[])[]): Promise<void> =>
		sql.run(
			`INSERT INTO ${table} (${columns}) SELECT ${columns
				.split(", ")
				.map((_, i) => `json_extract(value, '$[${i}]')`)
				.join(", ")} FROM json_each($rows)`,
			{ rows: JSON.stringify(rows) },
		);
	await db.transaction(async (sql) => {
		await put(sql, "blob", "hash, size, at", [["shape", 0, at]]);
		await put(sql, "geometry", "hash, mesh_hash", [["shape", "shape"]]);
		for (let p = 0; p < many.projects; p++) {
			const project = `project-${p}`;
			await put(sql, "project", "id, name, changed_at", [[project, `Project ${p}`, at]]);
			await put(sql, "access_grant", "subject_kind, subject, kind, target, role", [
				["person", "local", "project", project, "owner"],
			]);
			const parts = Array.from({ length: many.parts }, (_, n) => ({ id: `${project}-part-${n}`, n, material: pick() }));
			for (const part of parts) used.add(`m${part.material}`);
			await put(
				sql,
				"part",
				"id, project_id, key, geometry_hash, product, name, product_id, ord",
				parts.map(({ id, n }) => [id, project, `shape:${n}`, "shape", n, `Part ${n}`, `P-${n}`, n]),
			);
			await put(
				sql,
				"body",
				"part_id, n, name, volume_m3, area_m2, centroid_m, inertia_m5",
				parts.map(({ id }) => [id, 0, "", 1e-4 * (1 + next()), 0.02, "[0,0,0]", "[[1e-8,0,0],[0,1e-8,0],[0,0,1e-8]]"]),
			);
			await put(
				sql,
				"occurrence",
				"id, project_id, part_id, parent_id, name, path, matrix, ord",
				parts.map(({ id, n }) => [`${id}-1`, project, id, null, `Part ${n}`, `/${n}`, "[1,0,0,0,0,1,0,0,0,0,1,0]", n]),
			);
			await put(
				sql,
				"assignment",
				"part_id, project_id, revision_id, state",
				parts.map(({ id, material }) => [id, project, `r${material}`, "chosen"]),
			);
		}
		const events = Array.from({ length: 20_000 }, (_, i) => {
			const action = ["material.publish", "material.change", "draft.save", "material.retire"][i % 4] as string;
			return [
				at,
				"local",
				action,
				"material",
				`m${pick()}`,
				JSON.stringify({ revision: 1, note: i % 3 === 0 ? "weighed again" : "" }),
			];
		});
		for (let from = 0; from < events.length; from += 4000)
			await put(sql, "event", "at, actor, action, subject_kind, subject_id, changeset", events.slice(from, from + 4000));
		return { commit: true, value: null };
	});
	return { used: [...used] };
}
