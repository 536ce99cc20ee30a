import * as yup from "yup";
import { PATHS } from "../paths.data";
import { id, name, shape, text } from "../shapes";
import type * as wire from "../wire";
import { route } from "./route";

const ticket = yup
	.string()
	.strict()
	.required()
	.matches(/^[A-Za-z0-9_-]{43}$/, "a one-time link");
const password = yup.string().strict().required().max(400);

/** Signing in, people, teams, invitations, tokens. */
export const peopleRoutes = {
	signIn: route<wire.SessionView>()({
		...PATHS.signIn,
		action: "session.open",
		summary: "signs in with name and password; sets the session's cookie",
		open: true,
		input: shape({ login: text(200).required(), password }),
	}),
	signInAs: route<wire.SessionView>()({
		...PATHS.signInAs,
		action: "session.open",
		summary: "signs in as one of the demo's made-up people; refused everywhere else",
		open: true,
		input: shape({ person: id }),
	}),
	signOut: route<null>()({
		...PATHS.signOut,
		action: "account.own",
		summary: "ends this session, or every session of mine",
		input: shape({ everywhere: yup.boolean().strict() }),
	}),
	readTicket: route<wire.TicketView>()({
		...PATHS.readTicket,
		action: "session.open",
		summary: "what a one-time link is for, without using it",
		open: true,
		input: shape({ ticket }),
	}),
	useTicket: route<wire.SessionView>()({
		...PATHS.useTicket,
		action: "session.open",
		summary: "uses a one-time link: a new account, or a new password; signs in",
		open: true,
		input: shape({ ticket, name, login: text(200).required(), password }),
	}),
	listPeople: route<wire.PeopleView>()({
		...PATHS.listPeople,
		action: "people.read",
		summary: "people and teams here; open invitations for an administrator",
		input: shape({}),
	}),
	invite: route<wire.TicketLink>()({
		...PATHS.invite,
		action: "people.manage",
		summary: "a one-time link that lets one person make an account",
		input: shape({
			name: text(200).defined(),
			admin: yup.boolean().strict().required(),
			teams: yup.array(id).strict().required().max(50),
		}),
	}),
	withdrawInvitation: route<null>()({
		...PATHS.withdrawInvitation,
		action: "people.manage",
		summary: "an invitation no longer holds",
		input: shape({ id }),
	}),
	changePerson: route<null>()({
		...PATHS.changePerson,
		action: "people.manage",
		summary: "name, or administrator or not; the last administrator stays one",
		input: shape({ id, name: text(50_000), admin: yup.boolean().strict() }),
	}),
	resetPassword: route<wire.TicketLink>()({
		...PATHS.resetPassword,
		action: "people.manage",
		summary: "a one-time link for a new password; the old one holds until it is used",
		input: shape({ id }),
	}),
	handOver: route<wire.HandedOver>()({
		...PATHS.handOver,
		action: "people.manage",
		summary: "a person leaves: drafts, libraries, projects and shared views go to another, sessions and tokens end",
		input: shape({ id, to: id }),
	}),
	saveTeam: route<null>()({
		...PATHS.saveTeam,
		action: "people.manage",
		summary: "a team and its members",
		input: shape({ id, name, members: yup.array(id).strict().required().max(1000) }),
	}),
	removeTeam: route<null>()({
		...PATHS.removeTeam,
		action: "people.manage",
		summary: "takes a team away, and with it what it could see",
		input: shape({ id }),
	}),
	changeMe: route<null>()({
		...PATHS.changeMe,
		action: "account.own",
		summary: "my name, initials or password; a new password ends my other sessions",
		input: shape({ name: text(50_000), initials: text(10), password: text(400), oldPassword: text(400) }),
	}),
	listSessions: route<readonly wire.DeviceView[]>()({
		...PATHS.listSessions,
		action: "account.own",
		summary: "where I am signed in",
		input: shape({}),
	}),
	listTokens: route<readonly wire.TokenView[]>()({
		...PATHS.listTokens,
		action: "account.own",
		summary: "my tokens for scripts; never their secrets",
		input: shape({}),
	}),
	makeToken: route<wire.TokenSecret>()({
		...PATHS.makeToken,
		action: "account.own",
		summary: "a token for scripts, with a scope and a last day; its secret is shown this once",
		input: shape({
			id,
			name,
			scope: yup
				.string()
				.strict()
				.oneOf(["read", "write"] as const)
				.required(),
			days: yup.number().strict().required().integer().min(1).max(365),
		}),
	}),
	removeToken: route<null>()({
		...PATHS.removeToken,
		action: "account.own",
		summary: "a token of mine no longer opens anything",
		input: shape({ id }),
	}),
} as const;
