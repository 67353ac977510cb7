import type { StoredLine } from '../core/contact';
import { Problem } from '../core/problem';
import type { Profile } from '../core/profile';
import { firmwareOf, identify, isVariant, type Target } from '../core/transfer';
import { rollCallWithDiscovery, type CalledAnswer } from '../core/ci';
import { ALL_DEVICES, type Identity } from '../core/sysex';
import { call } from './api';
import { carryOut } from './carry-out';
import { desk } from './desk.svelte';
import { overLine } from './over-line';
import { realClock } from './real-clock';

async function onBench(line: StoredLine, profile: Profile, target: Target): Promise<Identity | null> {
	if (!line.unit) return null;
	const [{ answers }] = await desk.rollCallOnBench([line.unit.id]);
	const addressed = profile.addressing.deviceId !== undefined;
	return ofModel(profile, {
		answers: answers.filter(({ identity }) => !addressed || identity.deviceId === target.deviceId)
	});
}

const calling = () => rollCallWithDiscovery(Math.random);

const ofModel = (profile: Profile, { answers }: { answers: readonly CalledAnswer[] }): Identity | null =>
	answers.find(({ identity }) => isVariant(profile, identity))?.identity ?? null;

/**
 * Asks a device on its own line who it is, and notes that it answered.
 * @throws Problem where it does not, with what answered instead; `port.unknown`, `port.elsewhere`
 */
export async function askDevice(line: StoredLine, profile: Profile, target: Target): Promise<void> {
	const { device, way, unit } = line;
	const { world } = desk;
	let identity: Identity | null;
	if (world === 'bench') identity = await onBench(line, profile, target);
	else {
		identity = await overLine(
			device.name,
			{ out: way?.out, in: way?.in },
			`asking ${device.name} who it is`,
			async (link) => {
				if (!profile.identity.answers) return ofModel(profile, await carryOut(calling(), link, realClock));
				const found = await carryOut(identify(profile, target), link, realClock);
				if (found.reason) throw new Problem('contact.no-answer', found.reason.says, found.reason.remedy);
				return found.identity;
			}
		);
	}
	if (!identity)
		throw new Problem(
			'contact.no-answer',
			`“${device.name}” did not answer.`,
			'Is it on, is SysEx receive on, and is its device ID the one of the catalogue?'
		);
	await call('POST', `/devices/${device.id}/contact`, {
		world,
		how: 'identity',
		out: world === 'bench' ? null : (way?.out?.port ?? null),
		in: world === 'bench' ? null : (way?.in?.port ?? null),
		outName: world === 'bench' ? (unit?.name ?? '') : (way?.out?.name ?? ''),
		inName: world === 'bench' ? (unit?.name ?? '') : (way?.in?.name ?? ''),
		deviceId: identity.deviceId === ALL_DEVICES ? null : identity.deviceId,
		firmware: firmwareOf(identity)
	});
}
