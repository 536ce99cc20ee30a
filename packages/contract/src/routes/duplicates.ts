import * as yup from "yup";
import { PATHS } from "../paths.data";
import { id, shape, text } from "../shapes";
import type { Undoable } from "../wire";
import type * as wire from "../wire-duplicates";
import { route } from "./route";

/** The same material entered twice: told before saving, found, merged. */
export const duplicatesRoutes = {
	findAlike: route<readonly wire.AlikeRow[]>()({
		...PATHS.findAlike,
		action: "library.read",
		summary:
			"what may be the same material as one of mine (`material`: by name and values, with my draft) or as a name that is being typed",
		input: shape({ name: text(400), material: text(64) }),
	}),
	listDuplicates: route<wire.DuplicatePairs>()({
		...PATHS.listDuplicates,
		action: "library.read",
		summary: "pairs of materials of a library, and of it and others, that are likely the same, the most alike first",
		input: shape({ id }),
	}),
	keepApart: route<Undoable<null>>()({
		...PATHS.keepApart,
		action: "library.edit",
		summary: "says that two which look alike are not one, so that they are not told as duplicates again; or takes that back",
		input: shape({ id, other: id, on: yup.boolean().strict().required() }),
	}),
	mergePlan: route<wire.MergePlan>()({
		...PATHS.mergePlan,
		action: "library.edit",
		summary: "what merging `other` into this material would do: where they differ, and what stands on it",
		input: shape({ id, other: id }),
	}),
	mergeMaterials: route<wire.Merged>()({
		...PATHS.mergeMaterials,
		action: "library.publish",
		summary:
			"`other` is retired with this material as its successor, which takes over the places named in `take`; code and shop name go along where it has none",
		input: shape({
			id,
			other: id,
			take: yup.array(yup.string().strict().max(320).required()).strict().required().max(5000),
			code: yup.boolean().strict().required(),
			keepRevision: yup.number().strict().integer().required(),
			dropRevision: yup.number().strict().integer().required(),
			note: text(2000).defined(),
		}),
	}),
} as const;
