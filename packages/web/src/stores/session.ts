import { create } from "zustand";

/** Whether the server has stopped knowing this browser while a page was open. */
export const useSignedOut = create<{ readonly out: boolean }>(() => ({ out: false }));

/**
 * Whether a change of this page went without a reply. From then on it learns what became of its own steps by the stream, as
 * of others'.
 */
export const useLostReplies = create<{ readonly lost: boolean }>(() => ({ lost: false }));
