import { API_ROOT, packFound, type RouteInput, UPLOAD_LIMIT_BYTES } from "@alvek/contract";
import { ROUTES, type Route } from "@alvek/contract/routes";
import { LIMITS } from "@alvek/core/material";
import { fail, type Result } from "@alvek/core/result";
import type { Express, Request, Response } from "express";
import type { Upload } from "../runtime";
import type { Services } from "../services";
import { contextOf, requireSignIn } from "./authentication";
import { readInput } from "./input";
import { sendIssues, sendResult } from "./reply";

/** The routes that take or answer bytes. */
export function registerRaw(app: Express, raw: Services["raw"]): void {
	app.get(API_ROOT + ROUTES.exportMaterial.path, requireSignIn(ROUTES.exportMaterial), async (req, res) => {
		const input = readInput(ROUTES.exportMaterial, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.exportMaterial(contextOf(res), input.value as { id: string });
		if (!result.ok) return sendIssues(res, result.issues);
		sendFile(res, result.value.file, "application/json; charset=utf-8", result.value.json);
	});
	app.get(API_ROOT + ROUTES.massTable.path, requireSignIn(ROUTES.massTable), async (req, res) => {
		const input = readInput(ROUTES.massTable, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.massTable(contextOf(res), input.value as { id: string });
		if (!result.ok) return sendIssues(res, result.issues);
		// the mark tells spreadsheets that this is UTF-8
		sendFile(res, result.value.file, "text/csv; charset=utf-8", `\uFEFF${result.value.csv}`);
	});
	app.get(API_ROOT + ROUTES.historyTable.path, requireSignIn(ROUTES.historyTable), async (req, res) => {
		const input = readInput(ROUTES.historyTable, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.historyTable(contextOf(res), input.value as RouteInput<"historyTable">);
		if (!result.ok) return sendIssues(res, result.issues);
		sendFile(res, result.value.file, "text/csv; charset=utf-8", `\uFEFF${result.value.csv}`);
	});
	app.get(API_ROOT + ROUTES.findColumns.path, requireSignIn(ROUTES.findColumns), async (req, res) => {
		const input = readInput(ROUTES.findColumns, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.findColumns(contextOf(res), input.value as { properties: string });
		if (!result.ok) return sendIssues(res, result.issues);
		// the same question of an unchanged table is answered from the browser's own copy
		res.setHeader("Cache-Control", "private, no-cache");
		res.vary("Cookie").vary("Authorization");
		const tag = `"${result.value.tag}"`;
		res.setHeader("ETag", tag);
		if (req.headers["if-none-match"] === tag) return void res.status(304).end();
		res.type("application/octet-stream").send(Buffer.from(result.value.bytes().buffer));
	});
	app.get(API_ROOT + ROUTES.findWithColumns.path, requireSignIn(ROUTES.findWithColumns), async (req, res) => {
		const input = readInput(ROUTES.findWithColumns, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.findWithColumns(contextOf(res), input.value as RouteInput<"findWithColumns">);
		if (!result.ok) return sendIssues(res, result.issues);
		const json = new TextEncoder().encode(JSON.stringify(result.value.page));
		res.type("application/octet-stream").send(Buffer.from(packFound(json, result.value.columns).buffer));
	});
	app.get(API_ROOT + ROUTES.getMesh.path, requireSignIn(ROUTES.getMesh), async (req, res) => {
		const input = readInput(ROUTES.getMesh, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.getMesh(contextOf(res), input.value as { id: string; hash: string });
		if (!result.ok) return sendIssues(res, result.issues);
		// named by the hash of its content, so it never changes
		res.setHeader("Cache-Control", "private, max-age=31536000, immutable");
		res.type("application/octet-stream").send(result.value);
	});
	app.get(API_ROOT + ROUTES.getFile.path, requireSignIn(ROUTES.getFile), async (req, res) => {
		const input = readInput(ROUTES.getFile, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.getFile(contextOf(res), input.value as RouteInput<"getFile">);
		if (!result.ok) return sendIssues(res, result.issues);
		const { bytes, name, picture } = result.value;
		// whatever it is, nothing in it runs: no script, no frame, no request, not even when it is opened by its address
		res.setHeader("Content-Security-Policy", "default-src 'none'; sandbox");
		res.setHeader("Cache-Control", "private, max-age=31536000, immutable");
		if (picture === null) return sendFile(res, name, "application/octet-stream", bytes);
		res.setHeader("X-Content-Type-Options", "nosniff");
		res.type(picture).send(bytes);
	});
	app.get(API_ROOT + ROUTES.exportEdition.path, requireSignIn(ROUTES.exportEdition), async (req, res) => {
		const input = readInput(ROUTES.exportEdition, req);
		if (!input.ok) return sendIssues(res, input.issues);
		const result = await raw.exportEdition(contextOf(res), input.value as RouteInput<"exportEdition">);
		if (!result.ok) return sendIssues(res, result.issues);
		sendFile(res, result.value.file, "application/json; charset=utf-8", result.value.json);
	});
	app.post(API_ROOT + ROUTES.takeEdition.path, requireSignIn(ROUTES.takeEdition), async (req, res) => {
		const result = await received(ROUTES.takeEdition, { limit: UPLOAD_LIMIT_BYTES, req, res }, (input, upload) =>
			raw.takeEdition(contextOf(res), input as RouteInput<"takeEdition">, upload),
		);
		if (result !== null) sendResult(res, result);
	});
	app.post(API_ROOT + ROUTES.importGeometry.path, requireSignIn(ROUTES.importGeometry), async (req, res) => {
		const result = await received(ROUTES.importGeometry, { limit: UPLOAD_LIMIT_BYTES, req, res }, (input, upload) =>
			raw.importGeometry(contextOf(res), input as RouteInput<"importGeometry">, upload),
		);
		if (result?.ok) res.status(202);
		if (result !== null) sendResult(res, result);
	});
	app.post(API_ROOT + ROUTES.uploadFile.path, requireSignIn(ROUTES.uploadFile), async (req, res) => {
		const result = await received(ROUTES.uploadFile, { limit: LIMITS.file, req, res }, (input, upload) =>
			raw.uploadFile(contextOf(res), input as RouteInput<"uploadFile">, upload),
		);
		if (result !== null) sendResult(res, result);
	});
}

/** Takes a body as a stream; null when it was refused and answered before it was read. */
async function received<T>(
	route: Route,
	{ limit, req, res }: { readonly limit: number; readonly req: Request; readonly res: Response },
	take: (input: Record<string, unknown>, upload: Upload) => Promise<Result<T>>,
): Promise<Result<T> | null> {
	const header = req.headers["content-length"];
	const length = header === undefined ? null : Number(header);
	if (length !== null && length > limit) {
		// the connection is closed because nobody will read the rest
		res.setHeader("Connection", "close");
		sendIssues(res, [{ code: "upload-too-large", actual: length, expected: `${limit / 1024 / 1024} MB` }]);
		return null;
	}
	const wrongType = req.headers["content-type"] !== "application/octet-stream";
	const input = wrongType
		? fail({ code: "bad-input", path: "content-type", expected: "application/octet-stream" })
		: readInput(route, req);
	if (!input.ok) {
		sendIssues(res, input.issues);
		return null;
	}
	const result = await take(input.value, { stream: req, length });
	if (!result.ok && !req.readableEnded) res.setHeader("Connection", "close");
	return result;
}

function sendFile(res: Response, name: string, type: string, content: string | Buffer): void {
	// RFC 5987 for names beyond ASCII, with a plain fallback
	const plain = name.replace(/[^\x20-\x7e]|["\\]/g, "_");
	res.setHeader("Content-Disposition", `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`);
	res.setHeader("X-Content-Type-Options", "nosniff");
	res.type(type).send(content);
}
