import * as yup from "yup";
import { PATHS } from "../paths.data";
import { shape } from "../shapes";
import { NOTICE_KINDS, type Notices } from "../wire-notices";
import { route } from "./route";

/** What happened to things that a person uses. */
export const noticesRoutes = {
	listNotices: route<Notices>()({
		...PATHS.listNotices,
		action: "installation.use",
		summary: "what I am told of: new revisions of what I use, approvals asked, review dates passed; the newest first",
		input: shape({}),
	}),
	changeNotices: route<null>()({
		...PATHS.changeNotices,
		action: "installation.use",
		summary: "I have looked (`seen`), or what I want to be told of",
		input: shape({
			seen: yup.boolean().strict(),
			off: yup
				.array(
					yup
						.string()
						.strict()
						.oneOf(NOTICE_KINDS.map((k) => k.id))
						.required(),
				)
				.strict(),
		}),
	}),
} as const;
