/** The header that asks for a request to be run as a job, with the id that the job shall have. */
export const JOB_HEADER = "X-Alvek-Job";

/** Requests that may take long in a large library; with the header they answer at once, with the job that runs them. */
export const AS_JOB = ["freezeEdition", "freezeSet", "copyLibrary", "copyMany", "listDuplicates"] as const;
export type JobRoute = (typeof AS_JOB)[number];
