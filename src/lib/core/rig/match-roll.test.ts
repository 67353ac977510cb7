import { describe, expect, it } from 'vitest';
import { shippedProfiles, profileNamed } from '../bench/bench.fixture';
import { fromHex } from '../midi';
import { matchRoll, type RollDevice } from '.';

const answer = (profileId: string, deviceId: number, units = 1) => {
	const { identity } = profileNamed(profileId);
	return {
		units,
		identity: {
			deviceId,
			manufacturer: fromHex(identity.manufacturer),
			family: fromHex(identity.family),
			member: fromHex(identity.member),
			version: Uint8Array.of(1, 4, 0, 0)
		}
	};
};
const device = (
	id: string,
	deviceId: number | null,
	port: string | null,
	profileId = 'ternhill-umbra'
): RollDevice => ({
	id,
	name: id,
	profileId,
	deviceId,
	port
});
const states = (heard: Parameters<typeof matchRoll>[0], devices: RollDevice[]) =>
	matchRoll(heard, devices, shippedProfiles).entries.map(({ device: found, state }) => [
		found?.id ?? null,
		state
	]);

describe('who answered the roll call', () => {
	it('is matched to the catalogue by model, device ID and port', () => {
		expect(
			states(
				[
					{ port: 'Out 1', answer: answer('ternhill-umbra', 4) },
					{ port: 'Out 2', answer: answer('ternhill-umbra', 5) }
				],
				[device('stage', 5, 'Out 2'), device('hall', 4, 'Out 1')]
			)
		).toEqual([
			['hall', 'as planned'],
			['stage', 'as planned']
		]);
	});

	it('says what differs from the plan', () => {
		expect(
			states([{ port: 'Out 3', answer: answer('ternhill-umbra', 4) }], [device('hall', 4, 'Out 1')])
		).toEqual([['hall', 'on another port']]);
		expect(
			states([{ port: 'Out 1', answer: answer('ternhill-umbra', 9) }], [device('hall', 4, 'Out 1')])
		).toEqual([['hall', 'with another device ID']]);
		expect(
			states([{ port: 'Out 1', answer: answer('ternhill-umbra', 4, 2) }], [device('hall', 4, 'Out 1')])
		).toEqual([['hall', 'two units answer']]);
	});

	it('names the unknown, with the model where a profile knows it', () => {
		const stranger = answer('ternhill-umbra', 1);
		stranger.identity.family = Uint8Array.of(99, 99);
		const { entries } = matchRoll(
			[
				{ port: 'Out 1', answer: answer('vellbrook-orrery', 0) },
				{ port: 'Out 1', answer: stranger }
			],
			[],
			shippedProfiles
		);
		expect(entries.map(({ state, profileId }) => [state, profileId])).toEqual([
			['unknown', 'vellbrook-orrery'],
			['unknown', null]
		]);
	});

	it('and who should have answered is called silent, on the ports that were called', () => {
		const { silent } = matchRoll(
			[{ port: 'Out 1', answer: answer('vellbrook-orrery', 0) }],
			[device('hall', 4, 'Out 1'), device('far', 6, 'Out 9')],
			shippedProfiles
		);
		expect(silent.map(({ id }) => id)).toEqual(['hall']);
	});
});
