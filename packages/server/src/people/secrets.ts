import { createHash, randomBytes } from "node:crypto";

/** 256 random bits, as they stand in a cookie, a link or a header. */
export const newSecret = (): string => randomBytes(32).toString("base64url");

/** What is stored of a secret. It is random and long, so a plain hash cannot be guessed back. */
export const hashOf = (secret: string): string => createHash("sha256").update(secret).digest("hex");
