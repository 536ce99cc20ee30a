import { stat } from "node:fs/promises";
import { join } from "node:path";
import { Fault } from "../db";

/** Where things lie in a data folder. */
export const databaseIn = (dataDir: string): string => join(dataDir, "alvek.sqlite");
export const blobsIn = (dataDir: string): string => join(dataDir, "blobs");
/** A backup on its way in. */
export const restoringIn = (dataDir: string): string => join(dataDir, "restoring");
/** Stands in it once all of it was checked: from here on the old data are moved aside. */
export const READY = "ready";

export const exists = (path: string): Promise<boolean> =>
	stat(path).then(
		() => true,
		() => false,
	);

export const hasData = (dataDir: string): Promise<boolean> => exists(databaseIn(dataDir));

/** @throws Fault `no-data` */
export async function requireData(dataDir: string): Promise<void> {
	if (!(await hasData(dataDir))) throw new Fault({ code: "no-data", actual: dataDir });
}

/**
 * Half-moved data are not opened: an empty database would be made in the place of the one that is on its way.
 * @throws Fault `restore-unfinished`
 */
export async function refuseUnfinished(dataDir: string): Promise<void> {
	if (await exists(join(restoringIn(dataDir), READY))) throw new Fault({ code: "restore-unfinished", actual: dataDir });
}
