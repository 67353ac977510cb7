import { profileTitle, sameFamily, slotsOfModel, type Profile } from '../profile';
import { ALL_DEVICES, type Identity } from '../sysex';
import { answersRoll, isVariant, type RollAnswer } from '../transfer';

/** A device of the catalogue that may answer. */
export interface RollDevice {
	id: string;
	name: string;
	profileId: string | null;
	/** Wire value, or null where the catalogue does not say. */
	deviceId: number | null;
	/** The port that it is planned on, as the roll call names ports; null where none is. */
	port: string | null;
}

export interface RollEntry {
	port: string;
	identity: Identity;
	units: number;
	/** The model, where a profile knows it. */
	model: string | null;
	profileId: string | null;
	device: { id: string; name: string } | null;
	state:
		| 'as planned'
		| 'on another port'
		| 'with another device ID'
		| 'another variant'
		| 'unknown'
		| 'two units answer';
	says: string;
}

export interface RollResult {
	entries: RollEntry[];
	/** Devices that should have answered and did not. */
	silent: { id: string; name: string; port: string }[];
}

/**
 * Matches those who answered to the catalogue. A device is taken for one that answered when model, device ID and port
 * agree; then when model and device ID do, then model and port, then the model alone. One that is another variant of its
 * model by now, after a new system, is taken for itself at its own port, and elsewhere where nothing else is.
 */
export function matchRoll(
	heard: readonly { port: string; answer: RollAnswer }[],
	devices: readonly RollDevice[],
	profiles: readonly Profile[]
): RollResult {
	const byId = new Map(profiles.map((profile) => [profile.id, profile]));
	const open = heard.map(({ port, answer }) => {
		const suited = profiles
			.filter((profile) => isVariant(profile, answer.identity))
			.sort((a, b) => slotsOfModel(a) - slotsOfModel(b));
		return { port, answer, suited, profile: suited.at(0) ?? null, device: null as RollDevice | null };
	});
	const left = new Set(
		devices.filter(({ profileId }) => {
			const profile = profileId === null ? undefined : byId.get(profileId);
			return profile !== undefined && answersRoll(profile);
		})
	);
	const wanted = (device: RollDevice) =>
		device.deviceId ?? byId.get(device.profileId!)?.addressing.deviceId?.default ?? null;
	const isOf = (device: RollDevice, { suited }: (typeof open)[number]) =>
		suited.find(({ id }) => id === device.profileId);
	const wasOf = (device: RollDevice, { profile }: (typeof open)[number]) =>
		profile && sameFamily(profile, byId.get(device.profileId!)!) ? profile : undefined;
	const sameId = (entry: (typeof open)[number], device: RollDevice) =>
		wanted(device) === entry.answer.identity.deviceId;
	const samePort = (entry: (typeof open)[number], device: RollDevice) => device.port === entry.port;
	const passes = [
		{ models: isOf, agrees: [sameId, samePort] },
		{ models: wasOf, agrees: [sameId, samePort] },
		{ models: isOf, agrees: [sameId] },
		{ models: isOf, agrees: [samePort] },
		{ models: wasOf, agrees: [samePort] },
		{ models: isOf, agrees: [] },
		{ models: wasOf, agrees: [] }
	];
	for (const { models, agrees } of passes)
		for (const entry of open) {
			if (entry.device) continue;
			const device = [...left].find(
				(candidate) => models(candidate, entry) && agrees.every((agree) => agree(entry, candidate))
			);
			if (!device) continue;
			entry.device = device;
			// Where versions do not tell which of several it is, it is the one that it was taken for.
			entry.profile = models(device, entry)!;
			left.delete(device);
		}
	const entries = open.map(({ port, answer, profile, device }): RollEntry => {
		const { identity, units } = answer;
		const shown = identity.deviceId + (profile?.addressing.deviceId?.panelAdd ?? 0);
		const addressed = profile?.addressing.deviceId !== undefined;
		const base = {
			port,
			identity,
			units,
			model: profile ? profileTitle(profile) : null,
			profileId: profile?.id ?? null,
			device: device && { id: device.id, name: device.name }
		};
		if (units > 1)
			return {
				...base,
				state: 'two units answer',
				says:
					identity.deviceId === ALL_DEVICES
						? `${units === 2 ? 'Two' : units} units of one model answer here: plug in one at a time.`
						: `${units === 2 ? 'Two' : units} units answer to device ID ${shown}. Give one of them another ID, or back them up one at a time.`
			};
		if (!device)
			return {
				...base,
				state: 'unknown',
				says: profile
					? `A ${profileTitle(profile)} that is not in the catalogue. Add it?`
					: 'An unknown device: no profile knows its model. Add it?'
			};
		if (device.profileId !== profile!.id)
			return {
				...base,
				state: 'another variant',
				says: `This is your ${device.name}, and it is “${profile!.variant!.title}” now: its profile is for “${byId.get(device.profileId!)!.variant!.title}”.`
			};
		if (device.port !== null && device.port !== port)
			return {
				...base,
				state: 'on another port',
				says: `This is your ${device.name}, but the plan has it on ${device.port}.`
			};
		if (addressed && wanted(device) !== identity.deviceId)
			return {
				...base,
				state: 'with another device ID',
				says: `This is your ${device.name}, with device ID ${shown}; the catalogue says ${(wanted(device) ?? 0) + (profile?.addressing.deviceId?.panelAdd ?? 0)}.`
			};
		return {
			...base,
			state: 'as planned',
			says:
				device.port === null
					? `This is your ${device.name}.`
					: `This is your ${device.name}, on the port that you planned.`
		};
	});
	const called = new Set(heard.map(({ port }) => port));
	return {
		entries,
		silent: [...left]
			.filter(({ port }) => port !== null && called.has(port))
			.map(({ id, name, port }) => ({ id, name, port: port! }))
	};
}
