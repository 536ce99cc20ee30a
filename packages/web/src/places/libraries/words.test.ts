import { describe, expect, it } from "vitest";
import { lockWords } from "./words";

describe("a lock in words", () => {
	const lock = { person: "a", name: "Ada", since: "2026-11-02T08:00:00Z", closesAt: "2026-11-02T08:24:00Z" };
	const now = Date.parse("2026-11-02T08:00:00Z");

	it("says who holds it and for how long", () => {
		expect(lockWords(null, "a", now)).toBe("locked");
		expect(lockWords(lock, "a", now)).toBe("open for 24 min by you");
		expect(lockWords(lock, "b", now)).toBe("open for 24 min by Ada");
		expect(lockWords(lock, "b", Date.parse(lock.closesAt) - 1000)).toBe("open for 1 min by Ada");
	});
});
