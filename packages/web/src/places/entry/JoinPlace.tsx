import type { TicketView } from "@alvek/contract";
import { type FormEvent, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { call } from "../../api/client";
import { useRoute } from "../../api/queries";
import { Field } from "../../ui/Form";
import { Failure, Loading } from "../../ui/states";
import { EntryFrame, entered } from "./SignIn";

const WORDS: Readonly<Record<TicketView["kind"], { title: string; says: string; act: string }>> = {
	setup: {
		title: "Set up Alvek",
		says: "You become the administrator: you invite others and make links for forgotten passwords.",
		act: "Begin",
	},
	invitation: { title: "Join", says: "Choose the name that you sign in with, and a password.", act: "Join" },
	reset: {
		title: "A new password",
		says: "It takes the place of the old one and ends your other sessions.",
		act: "Set the password",
	},
};

/** What a one-time link opens: the first account, an invitation, or a new password. */
export function JoinPlace() {
	const { ticket = "" } = useParams();
	const read = useRoute("readTicket", { ticket });
	return (
		<EntryFrame>
			{read.isPending && <Loading what="The link" />}
			{read.isError && <Failure error={read.error} />}
			{read.data && <JoinForm ticket={ticket} view={read.data} />}
		</EntryFrame>
	);
}

function JoinForm({ ticket, view }: { ticket: string; view: TicketView }) {
	const navigate = useNavigate();
	const [name, setName] = useState(view.name);
	const [login, setLogin] = useState(view.login);
	const [password, setPassword] = useState("");
	const [error, setError] = useState<string | null>(null);
	const words = WORDS[view.kind];
	const submit = async (e: FormEvent): Promise<void> => {
		e.preventDefault();
		const refused = await entered(await call("useTicket", { ticket, name, login, password }));
		if (refused !== null) return setError(refused);
		void navigate("/materials", { replace: true });
	};
	return (
		<form onSubmit={submit} className="flex flex-col gap-3" noValidate>
			<div>
				<h1 className="text-2xl mb-1">{words.title}</h1>
				<p className="text-ink2">{words.says}</p>
			</div>
			<Field label="Your name" value={name} change={setName} autoComplete="name" readOnly={view.kind === "reset"} />
			<Field
				label="Name to sign in with"
				value={login}
				change={setLogin}
				autoComplete="username"
				readOnly={view.kind === "reset" && view.login !== ""}
			/>
			<Field
				label="Password"
				value={password}
				change={setPassword}
				type="password"
				autoComplete="new-password"
				hint="10 characters or more; a few words are easier to keep than signs."
			/>
			{error !== null && (
				<p role="alert" className="text-wrong">
					{error}
				</p>
			)}
			<button
				type="submit"
				className="btn btn-primary self-start"
				disabled={name.trim() === "" || login.trim() === "" || password === ""}
			>
				{words.act}
			</button>
		</form>
	);
}
