export { RULES, checkRig } from './check-rig';
export type { Cure, Finding, Rule, Severity, Trouble } from './rule';
