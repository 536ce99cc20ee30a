import { chromium } from "@playwright/test"; import { readFileSync } from "node:fs";
const files = process.argv.slice(3); const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox"] });
const page = await b.newPage({ viewport: { width: 400 * files.length, height: 800 } });
await page.setContent(`<body style="margin:0;display:flex;gap:10px;background:#fff">${files.map((f) => `<img width=390 src="data:image/png;base64,${readFileSync(f).toString("base64")}">`).join("")}</body>`);
await page.screenshot({ path: process.argv[2] }); await b.close();
