export { describeIssue } from "./describe";
export { fail, type Issue, ok, type Result } from "./issue";
