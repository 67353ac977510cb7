import { describe, expect, it } from 'vitest';
import { bringLists, mapSchema, emptyMap, meantBy, targetWords, writeLine } from '../core/control';
import { applyEdits } from '../core/edit';
import { addDevice, factsOfModel, updateDevice } from './gear';
import { deviceTargets, toldDevices } from './device-targets';
import { shippedProfiles } from './profiles';
import { freshStudio } from './studio.fixture';
import { shippedSurface } from './surfaces';

const here = freshStudio();

describe('what a device can be told', () => {
	it('is its profile’s, on the channel and by the sockets that it has here', async () => {
		const hall = await addDevice(here.studio, {
			...factsOfModel(here.studio, 'ternhill-umbra', 'Umbra hall'),
			channel: 4,
			ports: [{ id: 'in', name: 'In', direction: 'in', connector: 'din' }]
		});
		const silent = await addDevice(here.studio, factsOfModel(here.studio, 'bessel-lantern', 'Lantern'));
		expect((await toldDevices(here.studio)).map(({ name }) => name)).toEqual(['Umbra hall']);
		const list = await deviceTargets(here.studio, hall.id);
		expect(list).toMatchObject({ id: 'umbra-hall', name: 'Umbra hall', channels: [4], dinOnly: true });
		expect(list.targets.find(({ id }) => id === 'size')).toMatchObject({
			address: { kind: 'nrpn', number: 260 }
		});
		await updateDevice(here.studio, hall.id, {
			...hall,
			channel: null,
			ports: [{ id: 'usb', name: 'USB', direction: 'both', connector: 'usb-device' }]
		});
		expect(await deviceTargets(here.studio, hall.id)).toMatchObject({ channels: [], dinOnly: false });
		await expect(deviceTargets(here.studio, silent.id)).rejects.toMatchObject({ code: 'targets.not-found' });
	});

	it('brought again takes nothing away that a control still tells', async () => {
		const hall = await addDevice(here.studio, factsOfModel(here.studio, 'ternhill-umbra', 'Hall'));
		const list = await deviceTargets(here.studio, hall.id);
		const more = {
			...list,
			targets: [
				...list.targets,
				{ ...list.targets[0], id: 'own', name: 'Own' },
				{ ...list.targets[0], id: 'idle', name: 'Idle' }
			]
		};
		const first = emptyMap(shippedSurface('osier-weir-9'), 'Dome');
		const brought = mapSchema.parse(applyEdits(first, bringLists(first, [more])));
		const line = { page: 1, control: 'fader-1', gesture: 'move' } as const;
		const written = mapSchema.parse(applyEdits(brought, writeLine(brought, line, meantBy(brought, 'Own'))));
		const again = mapSchema.parse(applyEdits(written, bringLists(written, [list])));
		expect(again.lists[0].targets.map(({ id }) => id)).toEqual([...list.targets.map(({ id }) => id), 'own']);
	});

	it('is said by shipped profiles in words that mean it', () => {
		const told = shippedProfiles().filter(({ targets }) => targets);
		expect(told.map(({ id }) => id).sort()).toEqual(['ternhill-umbra', 'vellbrook-orrery']);
		for (const { targets = [], model } of told) {
			const lists = [{ format: 'silent-drawer.targets', version: 1, id: 'x', name: model, targets }];
			const map = mapSchema.parse({ ...emptyMap(shippedSurface('osier-weir-9'), 'Dome'), lists });
			for (const { id } of targets)
				expect(meantBy(map, targetWords(map, { list: 'x', target: id }))).toMatchObject({
					is: 'target',
					list: 'x',
					target: id
				});
		}
	});
});
