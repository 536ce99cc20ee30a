export { describeIssue } from "./describe";
export {
	describeFinding,
	type Finding,
	finding,
	findingJson,
	gravestFirst,
	type Place,
	placeText,
	type Severity,
} from "./finding";
export { fail, type Issue, type IssueCode, ok, type Result } from "./issue";
