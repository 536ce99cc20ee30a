import { fileURLToPath } from "node:url";
import { type Installation, listen, openInstallation } from "./server";

/**
 * Opens the installation and serves it until Ctrl+C. Settings come from the environment: `ALVEK_DATA`, `PORT`, `HOST`,
 * `ALVEK_HOSTS`.
 * @param root the checkout, with a slash at its end
 * @param prepare run before the first request: the demo fills its data here
 */
export async function start(root: URL, prepare?: (installation: Installation) => Promise<void>): Promise<void> {
	const dataDir = process.env.ALVEK_DATA ?? fileURLToPath(new URL("data", root));
	const port = Number(process.env.PORT ?? 4310);
	const host = process.env.HOST ?? "127.0.0.1";

	const installation = await openInstallation({
		dataDir,
		kernelWorker: new URL("packages/kernel/dist/worker.js", root),
		version: "0.1.0",
	});

	await prepare?.(installation);

	try {
		const { server, port: bound } = await listen(installation, {
			port,
			host,
			webRoot: fileURLToPath(new URL("packages/web/dist", root)),
			hostNames: (process.env.ALVEK_HOSTS ?? "").split(",").filter((h) => h !== ""),
		});
		console.log(
			`Alvek is at http://${host === "127.0.0.1" || host === "0.0.0.0" ? "localhost" : host}:${bound}   (Ctrl+C stops it; data in ${dataDir})`,
		);
		let stopping = false;
		const stop = async (): Promise<void> => {
			if (stopping) return;
			stopping = true;
			console.log("Stopping.");
			server.close();
			server.closeAllConnections();
			await installation.close();
			process.exit(0);
		};
		process.on("SIGINT", stop);
		process.on("SIGTERM", stop);
	} catch (error) {
		if ((error as { code?: string }).code === "EADDRINUSE") {
			console.error(`Port ${port} is busy. Stop what uses it, or choose another: PORT=4311 npm run demo`);
		} else console.error(String(error));
		await installation.close();
		process.exit(1);
	}
}
