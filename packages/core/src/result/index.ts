export { describeIssue } from "./describe";
export { fail, type Issue, type IssueCode, ok, type Result } from "./issue";
