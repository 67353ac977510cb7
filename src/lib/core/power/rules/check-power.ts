import { current, start, groupLimit, hub, battery } from './current';
import { hostedLoad, adapterEnd, hostMode } from './hosted';
import { volts, acDc, polarity, socketKind, readTheLabel } from './labels';
import { outputTwice, fedTwice, doubling, sharedGround, unfed } from './plugs';
import { groundOf, type PowerFinding, type Rule } from './rule';
import type { Power } from '../power';

const RULES: readonly Rule[] = [
	volts,
	acDc,
	polarity,
	current,
	start,
	groupLimit,
	outputTwice,
	fedTwice,
	doubling,
	sharedGround,
	hostedLoad,
	adapterEnd,
	hostMode,
	hub,
	battery,
	readTheLabel,
	unfed,
	socketKind
];

const ORDER = ['danger', 'warning', 'unknown', 'note'];

/** The ids of all rules. */
export const POWER_RULES = RULES.map(({ id }) => id);

/** Everything that is wrong with how things are fed, or not known; the worst first. */
export function checkPower(power: Power): PowerFinding[] {
	const ground = groundOf(power);
	return RULES.flatMap(({ id, find }) => find(ground).map((found) => ({ rule: id, ...found }))).sort(
		(a, b) => ORDER.indexOf(a.severity) - ORDER.indexOf(b.severity)
	);
}
