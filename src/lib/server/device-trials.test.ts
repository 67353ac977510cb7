import { describe, expect, it } from 'vitest';
import { finishSchema } from '../core/drawer';
import { toHex } from '../core/midi';
import { anUmbra, dumpOf, keep } from './heart.fixture';
import { trialsOnDevice } from './device-trials';
import { touchDevice } from './gear';
import { hashOf } from './hash';
import { freshStudio } from './studio.fixture';
import { checkTransfer } from './transfer-check';
import { beginTransfer, finishTransfer, keepSafetyCopy, wantedOf } from './transfers';

const here = freshStudio();
const asked = (deviceId: string) =>
	checkTransfer(here.studio, new URLSearchParams({ device: deviceId, try: '1' }), 'hardware');

describe('a profile that is tried on its device', () => {
	it('writes the last slot of what is known back to where it is, only while it is known', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await expect(asked(device.id)).rejects.toMatchObject({ code: 'try.not-read' });
		await keep(here.studio, device, profile, slots);
		const { source, check, title } = await asked(device.id);
		const record = hashOf(slots[49].bytes);
		expect(source).toEqual({
			from: 'sounds',
			sounds: [{ area: 'programs', index: 49, record, over: record, rewrite: true }],
			links: undefined
		});
		expect(title).toContain('program 50');
		expect(check?.dry).toMatchObject({ messages: 1, alreadyThere: 0, unknown: 0 });
		await touchDevice(here.studio, device.id);
		await expect(asked(device.id)).rejects.toMatchObject({ code: 'try.not-read' });
	});

	it('is reported with what both readings were made of, where it ended well, and not where it did not', async () => {
		const { device, profile, slots } = await anUmbra(here.studio);
		await keep(here.studio, device, profile, slots);
		const { source } = await asked(device.id);
		const begin = async () => {
			const { id } = await beginTransfer(here.studio, {
				world: 'hardware',
				deviceId: device.id,
				direction: 'restore',
				scope: { kind: 'all' },
				source: source!
			});
			expect((await wantedOf(here.studio, id)).slots).toMatchObject([{ index: 49, rewrite: true }]);
			return id;
		};
		const messages = dumpOf(profile, [slots[49]]).map((bytes) => toHex(bytes));
		const good = await begin();
		await keepSafetyCopy(here.studio, good, { messages, firmware: '1.07' } as Parameters<
			typeof keepSafetyCopy
		>[2]);
		await finishTransfer(
			here.studio,
			good,
			finishSchema.parse({
				status: 'verified',
				reason: null,
				firmware: '1.07',
				readBack: messages,
				touched: [{ area: 'programs', index: 49 }],
				outcome: { slots: [{ area: 'programs', index: 49, label: '50', name: null, result: 'verified' }] }
			})
		);
		const [trial] = await trialsOnDevice(here.studio, device.id);
		expect(trial).toMatchObject({
			transferId: good,
			status: 'verified',
			slot: 'program 50',
			report: { bench: false, dumps: 2, messages: 2, read: 2, rebuilt: 2, onDevice: true }
		});
		const bad = await begin();
		await finishTransfer(
			here.studio,
			bad,
			finishSchema.parse({
				status: 'refused',
				reason: { code: 'no answer', says: 'It does not answer.', remedy: 'Look.' }
			})
		);
		expect(
			(await trialsOnDevice(here.studio, device.id)).find(({ transferId }) => transferId === bad)
		).toMatchObject({
			report: null,
			reason: 'It does not answer.'
		});
	});
});
