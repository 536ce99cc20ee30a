/** What a device is asked: what follows its own path, and the JSON that came with it. */
export type Asked = { readonly method: string; readonly rest: string; readonly body: unknown };
export type Answer = { readonly status: number; readonly body: unknown };

/** A small simulated device or outside service, at a path of its own. */
export type Device = {
	/** Without slashes: `clock`. */
	readonly path: string;
	/** What it stands in for, in one sentence. */
	readonly about: string;
	/** null: there is nothing at that path. */
	answer(asked: Asked): Answer | null;
};

export const refused = (why: string): Answer => ({ status: 422, body: { why } });
