import { expect, it } from "vitest";
import { moved } from "./starOrder";

it("one takes another's place, and those between move up", () => {
	const list = ["a", "b", "c", "d"];
	expect(moved(list, 0, 2).join("")).toBe("bcad");
	expect(moved(list, 3, 0).join("")).toBe("dabc");
	expect(moved(list, 1, 1)).toEqual(list);
	expect(list.join("")).toBe("abcd");
});
