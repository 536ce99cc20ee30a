/** People, sessions, teams. Secrets go out once, when they are made, and never again. */

export type PersonView = {
	readonly id: string;
	readonly name: string;
	readonly initials: string;
	readonly admin: boolean;
	/** What the person signs in with; empty for somebody who never set a password. */
	readonly login: string;
	readonly left: boolean;
};

export type SessionView = {
	readonly version: string;
	/** Nobody: not signed in. */
	readonly person: PersonView | null;
	/** People who have not left; with one there are no locks and no roles to speak of. */
	readonly people: number;
	/** Made-up people to sign in as with one click; only in the demo. */
	readonly demo: readonly { readonly id: string; readonly name: string; readonly initials: string; readonly does: string }[];
	/** Nobody can sign in yet: the console shows the link that makes the administrator. */
	readonly unset: boolean;
};

export type TicketView = {
	readonly kind: "setup" | "invitation" | "reset";
	/** Filled in already. */
	readonly name: string;
	readonly login: string;
};

export type TicketLink = { readonly path: string; readonly expiresAt: string };

export type TeamView = { readonly id: string; readonly name: string; readonly members: readonly string[] };

export type InvitationView = {
	readonly id: string;
	readonly name: string;
	readonly admin: boolean;
	readonly by: string;
	readonly expiresAt: string;
};

export type PeopleView = {
	readonly people: readonly PersonView[];
	readonly teams: readonly TeamView[];
	/** Empty unless an administrator asks. */
	readonly invitations: readonly InvitationView[];
};

export type HandedOver = {
	readonly drafts: number;
	readonly libraries: number;
	readonly projects: number;
	/** Values of drafts that both had changed; the receiver's stayed. */
	readonly kept: readonly { readonly material: string; readonly at: string }[];
};

export type DeviceView = {
	readonly id: string;
	/** What the browser says it is. */
	readonly agent: string;
	readonly since: string;
	readonly seen: string;
	readonly here: boolean;
};

export type TokenView = {
	readonly id: string;
	readonly name: string;
	readonly scope: "read" | "write";
	readonly createdAt: string;
	readonly expiresAt: string;
	readonly usedAt: string | null;
};

export type TokenSecret = TokenView & { readonly secret: string };
