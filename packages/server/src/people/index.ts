export {
	changeMe,
	changePerson,
	getSession,
	invite,
	keepsAnAdministrator,
	listPeople,
	manage,
	personById,
	removeTeam,
	resetPassword,
	saveTeam,
	withdrawInvitation,
} from "./service";
export { bySession, byToken, type Known, listSessions, SESSION_DAYS } from "./sessions";
export { signInServices } from "./sign-in";
export { readTicket, setupLink } from "./tickets";
export { listTokens, makeToken, removeToken, scriptToken } from "./tokens";
