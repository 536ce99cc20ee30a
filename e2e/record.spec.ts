import { readFileSync } from "node:fs";
import { deflateSync } from "node:zlib";
import { expect, type Page, test } from "@playwright/test";
import { beginMaterial, documentOf, publish, saved, typeValue, unique, watchErrors } from "./helpers";

/** A small picture with true checksums, made here: stripes of two colours. */
function picture(width: number, height: number): Buffer {
	const crc = (bytes: Buffer): number => {
		let c = 0xffffffff;
		for (const b of bytes) {
			c ^= b;
			for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
		}
		return (c ^ 0xffffffff) >>> 0;
	};
	const chunk = (type: string, data: Buffer): Buffer => {
		const body = Buffer.concat([Buffer.from(type), data]);
		const frame = Buffer.alloc(8);
		frame.writeUInt32BE(data.length, 0);
		frame.writeUInt32BE(crc(body), 4);
		return Buffer.concat([frame.subarray(0, 4), body, frame.subarray(4)]);
	};
	const head = Buffer.alloc(13);
	head.writeUInt32BE(width, 0);
	head.writeUInt32BE(height, 4);
	head.set([8, 2, 0, 0, 0], 8);
	const rows = Array.from({ length: height }, (_, y) =>
		Buffer.concat([Buffer.from([0]), Buffer.alloc(width * 3, y % 8 < 4 ? 0xc0 : 0x50)]),
	);
	return Buffer.concat([
		Buffer.from("89504e470d0a1a0a", "hex"),
		chunk("IHDR", head),
		chunk("IDAT", deflateSync(Buffer.concat(rows))),
		chunk("IEND", Buffer.alloc(0)),
	]);
}

type Record = {
	look: { metalness: number; texture: unknown; hatch: unknown; surface: string };
	attachments: { [id: string]: { name: string; version: number; format: string } };
};
const record = async (page: Page): Promise<Record> => (await documentOf(page)) as unknown as Record;

test("the look: shares, a pattern, a picture in its size, a hatch; kept, and back by undo", async ({ page }) => {
	const errors = watchErrors(page);
	const name = unique("Looked at");
	await beginMaterial(page, name);
	const look = page.getByRole("region", { name: "Look" });
	// the sheet still moves while it fills, so it is scrolled to until it stays in sight
	await expect(async () => {
		await look.evaluate((e) => e.scrollIntoView());
		const preview = look.getByRole("img", { name: "Preview of the look on a stepped block" });
		await expect(preview.locator("canvas")).toBeVisible({ timeout: 4000 });
	}).toPass();
	await look.getByRole("slider", { name: "Metal" }).focus();
	for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowRight");
	await saved(page);
	await expect.poll(async () => (await record(page)).look.metalness).toBeCloseTo(0.25, 9);
	await look.getByLabel("Texture", { exact: true }).selectOption("weave");
	await look.getByLabel("repeats every mm").fill("14");
	await page.keyboard.press("Tab");
	await look.getByRole("radio", { name: /^waves/ }).check({ force: true });
	await look.getByRole("slider", { name: "Angle" }).focus();
	await page.keyboard.press("ArrowRight");
	await look.getByLabel("Surface, where that is not the material itself").fill("painted signal grey");
	await page.keyboard.press("Tab");
	await saved(page);
	await expect
		.poll(async () => (await record(page)).look)
		.toMatchObject({
			surface: "painted signal grey",
			texture: { kind: "procedural", pattern: "weave", size_mm: 14 },
			hatch: { pattern: "waves", angle_deg: 50, spacing_mm: 3 },
		});

	const chooser = look.getByLabel("Picture of the surface");
	await chooser.setInputFiles({ name: "bark.png", mimeType: "image/png", buffer: Buffer.from("<svg onload=alert(1)>") });
	await expect(page.getByText("The content looks like SVG, not like PNG, JPEG or WebP. Nothing was stored.")).toBeVisible();
	await chooser.setInputFiles({ name: "stripes.png", mimeType: "image/png", buffer: picture(64, 32) });
	await expect
		.poll(async () => (await record(page)).look.texture)
		.toMatchObject({ kind: "picture", name: "stripes.png", size_mm: [40, 20], offset_mm: [0, 0] });
	await page.reload();
	await expect(look.getByRole("button", { name: "stripes.png" })).toBeVisible();
	await look.getByRole("button", { name: "Back to a plain look" }).click();
	await expect.poll(async () => (await record(page)).look.texture).toBeNull();
	await page.keyboard.press("Control+z");
	await expect.poll(async () => (await record(page)).look.texture).toMatchObject({ kind: "picture" });

	// what a published material shows is offered to the next one
	await publish(page, "with its surface");
	await beginMaterial(page, unique("Looks alike"));
	await look.getByLabel("Texture", { exact: true }).selectOption("held");
	const held = page.getByRole("dialog", { name: "Textures held in libraries" });
	await held.getByLabel("Material, library or file").fill(name);
	await held.getByRole("button", { name }).click();
	await expect.poll(async () => (await record(page)).look.texture).toMatchObject({ kind: "picture", size_mm: [40, 20] });
	await page.reload();
	await expect(look.getByRole("button", { name: "stripes.png" })).toBeVisible();
	expect(errors).toEqual([]);
});

test("attachments: pre-filled, versioned, downloaded as they were; a page with a script is only data", async ({ page }) => {
	const errors = watchErrors(page);
	await beginMaterial(page, unique("With papers"));
	const section = page.getByRole("region", { name: "Attachments" });
	await expect(section).toContainText("No file yet");
	const input = section.getByLabel("File to attach");
	const page1 = "<!doctype html><script>document.title='run'</script>";
	await input.setInputFiles({ name: "heat 12 certificate.pdf", mimeType: "application/pdf", buffer: Buffer.from(page1) });
	await expect(section).toContainText("its content looks like HTML, its name ends in .pdf");
	await expect(section.getByLabel(/^Purpose of heat 12/)).toHaveValue("certificate");
	await expect(section.getByLabel(/^Note on heat 12/)).toHaveValue(/With papers/);
	const [file] = await Promise.all([
		page.waitForEvent("download"),
		section.getByRole("link", { name: /^Download heat 12/ }).click(),
	]);
	expect(file.suggestedFilename()).toBe("heat 12 certificate.pdf");
	expect(readFileSync(await file.path()).toString()).toBe(page1);

	await section.getByLabel(/^Note on heat 12/).fill("Heat 12, bars of 20 mm");
	await page.keyboard.press("Tab");
	await saved(page);
	const next = page.waitForEvent("filechooser");
	await section.getByRole("button", { name: "newer version" }).click();
	await (await next).setFiles({
		name: "heat 12 certificate.pdf",
		mimeType: "application/pdf",
		buffer: Buffer.from("%PDF-1.7 x"),
	});
	await expect(section).toContainText("PDF, 10 bytes, version 2");
	await expect(section.getByLabel(/^Note on heat 12/)).toHaveValue("Heat 12, bars of 20 mm");
	await input.setInputFiles({ name: "empty.txt", mimeType: "text/plain", buffer: Buffer.alloc(0) });
	await expect(page.getByText("“empty.txt” is empty (0 bytes). Export it again.")).toBeVisible();
	await saved(page);
	await page.reload();
	await expect(section).toContainText("version 2");
	await section.getByRole("button", { name: /^Take heat 12/ }).click();
	await expect(section).toContainText("No file yet");
	await page.keyboard.press("Control+z");
	await expect(section).toContainText("version 2");
	expect(errors).toEqual([]);
});

test("on paper: values, units, evidence, revision in words; the screen's furniture stays off; A4 and Letter", async ({
	page,
}) => {
	const reply = await page.request.get(
		`/api/v1/materials?${new URLSearchParams({ text: "Gudgeon bronze 5", library: "orrisay" })}`,
	);
	const { value } = (await reply.json()) as { value: { rows: { id: string; name: string }[] } };
	const id = value.rows.find((r) => r.name === "Gudgeon bronze 5")?.id ?? "";
	await page.goto(`/paper?ids=${id}`);
	const sheet = page.getByRole("article", { name: "Gudgeon bronze 5" });
	for (const words of [
		"Revision 2",
		"published by",
		"8.78–8.91",
		"g/cm³",
		"data sheet",
		"works with 8.842",
		"Stress-strain curve",
		"heat 0417 certificate.txt",
	])
		await expect(sheet).toContainText(words);
	await expect(sheet.getByRole("img", { name: /stress over strain/ })).toBeVisible();
	await page.emulateMedia({ media: "print" });
	for (const name of ["Find a material, part or action"]) await expect(page.getByLabel(name)).toBeHidden();
	await expect(page.getByRole("button", { name: "Print or save as PDF" })).toBeHidden();
	/** How many pages, and their size in points as the browser rounds it. */
	const printed = async (): Promise<{ count: number; size: string }> => {
		const pdf = (await page.pdf({ preferCSSPageSize: true })).toString("latin1");
		expect(pdf.startsWith("%PDF-")).toBe(true);
		const box = /\/MediaBox\s*\[([^\]]*)\]/.exec(pdf)?.[1] ?? "";
		const [width, height] = box.trim().split(/\s+/).slice(2).map(Number);
		return {
			count: (pdf.match(/\/Type\s*\/Page\b/g) ?? []).length,
			size: `${Math.round(width ?? 0)} x ${Math.round(height ?? 0)}`,
		};
	};
	const a4 = await printed();
	expect(a4.count).toBeGreaterThanOrEqual(2);
	// 210 x 297 mm, then 8.5 x 11 inches
	expect(a4.size).toBe("595 x 842");
	await page.emulateMedia({ media: "screen" });
	await page.getByRole("combobox", { name: /^Paper/ }).selectOption("Letter");
	await expect.poll(async () => (await printed()).size).toBe("612 x 792");
	// a booklet has its contents first
	await page.goto(`/paper?ids=${value.rows.map((r) => r.id).join(",")}`);
	await expect(page.getByRole("article", { name: "Contents" })).toContainText("Gudgeon bronze 5, cautious");
});

test("a draft on paper says that it is one", async ({ page }) => {
	await beginMaterial(page, unique("Paper draft"));
	await typeValue(page, "Density", "7.85 g/cm3");
	await saved(page);
	await page.getByRole("link", { name: "Print" }).click();
	await expect(page.getByText("DRAFT, not published")).toBeVisible();
});
