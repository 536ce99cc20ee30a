import type { Row, Sql } from "../db";

export type JobRecord = Row<"job">;

export const jobById = (sql: Sql, id: string): Promise<JobRecord | null> => sql.find("job", { id });

export const insertJob = (sql: Sql, job: JobRecord): Promise<void> => sql.insert("job", job);

export const endJob = (sql: Sql, id: string, end: Pick<JobRecord, "state" | "progress" | "issues" | "ended_at">): Promise<void> =>
	sql.update("job", { id }, end);

/** Kinds of jobs that were running, with the ids of each. */
export function runningJobs(sql: Sql): Promise<Pick<JobRecord, "id" | "kind">[]> {
	return sql.all("SELECT id, kind FROM job WHERE state = 'running'");
}
