import type { StoredFile } from "@alvek/contract";
import { API_ROOT } from "@alvek/contract";
import type { Result } from "@alvek/core/result";
import { upload } from "./client";

/** Sends a file of a record; it belongs to nothing until a draft names it. */
type UploadOptions = { readonly onProgress?: (share: number) => void; readonly signal?: AbortSignal };

export async function uploadFile(
	material: string,
	file: File,
	as: "attachment" | "picture",
	{ onProgress = () => undefined, signal = new AbortController().signal }: UploadOptions = {},
): Promise<Result<StoredFile>> {
	const path = `/materials/${material}/files?${new URLSearchParams({ file: file.name, as })}`;
	return (await upload(path, file, onProgress, signal)) as Result<StoredFile>;
}

/** Where a file of a record is fetched from, always as a download. */
export function fileAddress(material: string, hash: string, name: string): string {
	return `${API_ROOT}/materials/${material}/files/${hash}?${new URLSearchParams({ name })}`;
}
