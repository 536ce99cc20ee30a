import { createStandIns, listen } from "./server";

/** Small simulated devices and services, on port 4320 or the one in `ALVEK_STANDINS_PORT`; ends with whoever started it. */
const address = await listen(createStandIns(), Number(process.env.ALVEK_STANDINS_PORT ?? 4320));
process.send?.({ address });
process.once("disconnect", () => process.exit(0));
if (process.send === undefined) console.log(`Stand-ins for devices are at ${address}   (Ctrl+C stops them)`);
