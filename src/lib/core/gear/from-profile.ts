import type { Profile } from '../profile';
import { deviceSchema, type DeviceFacts } from './device';

/** What a profile says of a new device, before the musician says more: its sockets among it. */
export function factsFromProfile(profile: Profile, name: string): DeviceFacts {
	const readable = profile.capture.length > 0;
	return deviceSchema.parse({
		name,
		maker: profile.maker,
		model: profile.model,
		kind: profile.kind,
		profileId: profile.id,
		deviceId: profile.addressing.deviceId?.default ?? null,
		channel: 1,
		ports: [
			{ id: 'in', name: 'MIDI in', direction: 'in', connector: 'din' },
			...(readable ? [{ id: 'out', name: 'MIDI out', direction: 'out', connector: 'din' }] : [])
		],
		forgets: profile.preflight.restore
			.filter((check) => check.forgets)
			.map((check) => check.says)
			.join(' '),
		batteryType: profile.battery ?? ''
	});
}

/** A name that nothing of the catalogue has yet: “Orrery”, “Orrery 2” … within 60 characters. */
export function freeName(wanted: string, taken: ReadonlySet<string>): string {
	const base = wanted.trim().slice(0, 60) || 'Device';
	if (!taken.has(base)) return base;
	for (let n = 2; ; n++) {
		const name = `${base.slice(0, 56)} ${n}`;
		if (!taken.has(name)) return name;
	}
}
