import { create } from "zustand";

/** Whether the server has stopped knowing this browser while a page was open. */
export const useSignedOut = create<{ readonly out: boolean }>(() => ({ out: false }));
