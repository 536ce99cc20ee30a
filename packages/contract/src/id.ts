/**
 * A UUID version 7 (RFC 9562): 48 bits of milliseconds, then random bits; sorts by time.
 * @param now milliseconds since 1970
 * @param random 10 random bytes, from getRandomValues (`randomUUID` is missing on plain http)
 */
export function uuid7(now: number, random: Uint8Array): string {
	const bytes = new Uint8Array(16);
	for (let i = 0, rest = now; i < 6; i++, rest = Math.floor(rest / 256)) bytes[5 - i] = rest % 256;
	bytes.set(random.subarray(0, 10), 6);
	bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x70;
	bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
	const hex = [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
	return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}
