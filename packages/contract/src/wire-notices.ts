/** What a person may be told of. Each can be left out. */
export const NOTICE_KINDS = [
	{ id: "revision", name: "a new revision of something my projects use or I starred" },
	{ id: "retired", name: "something I use is retired or merged" },
	{ id: "approval", name: "a colleague asks for approval, or answers mine" },
	{ id: "review", name: "the review date of a material I keep has passed" },
	{ id: "upkeep", name: "the scheduled backup failed (administrators)" },
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number]["id"];

export type Notice = {
	readonly key: string;
	readonly kind: NoticeKind;
	readonly at: string;
	/** The sentence without the name of its subject, which stands before it. */
	readonly message: string;
	readonly subject: string;
	/** A place of the interface. */
	readonly to: string;
	readonly note: string;
	/** Came after the person looked last. */
	readonly fresh: boolean;
};

export type Notices = {
	readonly notices: readonly Notice[];
	readonly fresh: number;
	/** Kinds that this person wants nothing of. */
	readonly off: readonly NoticeKind[];
};
