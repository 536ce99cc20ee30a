import { fork } from "node:child_process";

/**
 * Starts the stand-ins as a process of their own, which ends with this one; where `ALVEK_STANDINS` says that some run
 * already, those are used.
 * @param file the built program
 * @returns their address, without a slash at its end
 */
export function startStandIns(file: URL): Promise<string> {
	const running = process.env.ALVEK_STANDINS;
	if (running !== undefined && running !== "") return Promise.resolve(running.replace(/\/+$/, ""));
	return new Promise((resolve, reject) => {
		const child = fork(file, { stdio: ["ignore", "inherit", "inherit", "ipc"] });
		child.once("error", reject);
		child.once("exit", (code) => reject(new Error(`the stand-ins ended with ${code}`)));
		child.once("message", (message) => {
			// neither it nor the channel keeps this process alive
			child.unref();
			child.channel?.unref();
			resolve((message as { address: string }).address);
		});
	});
}
