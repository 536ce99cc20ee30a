import { API_ROOT, ROUTES, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import type { Express, Request, Response } from "express";
import type { Context } from "../db/write";
import type { Services } from "../services";
import { readInput } from "./input";
import { sendIssues, sendResult } from "./reply";

/** The routes that take or answer bytes. */
export function registerRaw(app: Express, raw: Services["raw"], context: () => Context): void {
	app.get(API_ROOT + ROUTES.exportMaterial.path, async (req, res) => {
		const input = readInput(ROUTES.exportMaterial, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.exportMaterial(context(), input.value as { id: string });
		if (!result.ok) return sendIssues(res, result.issues);
		sendFile(res, result.value.file, "application/json; charset=utf-8", result.value.json);
	});
	app.get(API_ROOT + ROUTES.massTable.path, async (req, res) => {
		const input = readInput(ROUTES.massTable, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.massTable(context(), input.value as { id: string });
		if (!result.ok) return sendIssues(res, result.issues);
		// the mark tells spreadsheets that this is UTF-8
		sendFile(res, result.value.file, "text/csv; charset=utf-8", `\uFEFF${result.value.csv}`);
	});
	app.get(API_ROOT + ROUTES.getMesh.path, async (req, res) => {
		const input = readInput(ROUTES.getMesh, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.getMesh(context(), input.value as { id: string; hash: string });
		if (!result.ok) return sendIssues(res, result.issues);
		// named by the hash of its content, so it never changes
		res.setHeader("Cache-Control", "private, max-age=31536000, immutable");
		res.type("application/octet-stream").send(result.value);
	});
	app.post(API_ROOT + ROUTES.importGeometry.path, (req, res) => receiveGeometry(raw, context(), req, res));
}

async function receiveGeometry(raw: Services["raw"], ctx: Context, req: Request, res: Response): Promise<void> {
	const header = req.headers["content-length"];
	const length = header === undefined ? null : Number(header);
	if (length !== null && length > UPLOAD_LIMIT_BYTES) {
		// answered before the body is read; the connection is closed because nobody will read the rest
		res.setHeader("Connection", "close");
		return sendIssues(res, [{ code: "upload-too-large", actual: length, expected: "200 MB" }]);
	}
	if (req.headers["content-type"] !== "application/octet-stream") {
		return sendIssues(res, [{ code: "bad-input", path: "content-type", expected: "application/octet-stream" }]);
	}
	const input = readInput(ROUTES.importGeometry, req);
	if (!input.ok) return sendIssues(res, input.issues);
	const result = await raw.importGeometry(ctx, input.value as { id: string; file: string; job: string }, { stream: req, length });
	if (!result.ok && !req.readableEnded) res.setHeader("Connection", "close");
	if (result.ok) res.status(202);
	sendResult(res, result);
}

function sendFile(res: Response, name: string, type: string, content: string): void {
	// RFC 5987 for names beyond ASCII, with a plain fallback
	const plain = name.replace(/[^\x20-\x7e]|["\\]/g, "_");
	res.setHeader("Content-Disposition", `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`);
	res.setHeader("X-Content-Type-Options", "nosniff");
	res.type(type).send(content);
}
