import type { Action } from "@alvek/core/rights";
import type * as yup from "yup";

/** Phantom holder of a reply's type; nothing at run time. */
type Carries<T> = { readonly _reply?: T };

export type Route<Input = unknown, Reply = unknown> = Carries<Reply> & {
	readonly method: "GET" | "POST" | "PATCH" | "DELETE";
	/** Express style, under `/api/v1`. Names behind `:` are taken from the input. */
	readonly path: string;
	/** What `may()` is asked. */
	readonly action: Action;
	/** One line for the list of routes. */
	readonly summary: string;
	readonly input: yup.ObjectSchema<Input & yup.AnyObject>;
	/** Answers or takes bytes instead of JSON. */
	readonly raw?: "download" | "upload";
	/** Answered before anybody has signed in. */
	readonly open?: true;
};

export function route<Reply>() {
	return <S extends yup.AnyObjectSchema>(definition: Omit<Route, "input" | "_reply"> & { input: S }) =>
		definition as Omit<Route, "input" | "_reply"> & { input: S } & Carries<Reply>;
}
