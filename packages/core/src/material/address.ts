import type { Issue } from "../result";
import type { Edit } from "./edit";
import { isWebAddress } from "./shape";

/** A source leads to the web or nowhere. Asked where one comes in; what was stored before stays readable. */
export function addressIssue(content: unknown, path: string): Issue | null {
	const address = (content as { address?: unknown } | null)?.address;
	if (typeof address !== "string" || address === "" || isWebAddress(address)) return null;
	return { code: "not-an-address", path: `${path}.address`, actual: address.slice(0, 80) };
}

/** The first source that these edits bring in with an address that is none. */
export function sourceAddressIssue(edits: readonly Edit[]): Issue | null {
	for (const { at, to } of edits) {
		const issue = at.startsWith("sources:") ? addressIssue(to, at) : null;
		if (issue !== null) return issue;
	}
	return null;
}
