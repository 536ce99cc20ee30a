import { create } from "zustand";

/** A question that stands in front of everything until it is answered. */
export type Question = { readonly title: string; readonly text: string; readonly act: string };

type Open = Question & { readonly answer: (yes: boolean) => void };

export const useQuestion = create<{ readonly open: Open | null }>(() => ({ open: null }));

/** Asks, and resolves with the answer; closing the question is a no. */
export function askFirst(question: Question): Promise<boolean> {
	return new Promise((resolve) => {
		const answer = (yes: boolean): void => {
			useQuestion.setState({ open: null });
			resolve(yes);
		};
		useQuestion.setState({ open: { ...question, answer } });
	});
}
