import { expect, it } from 'vitest';
import { likeliestDevices, type FittingDevice } from '.';

const device = (id: string, why = 'same model', fits = true): FittingDevice => ({ id, name: id, fits, why });
const east = device('east');
const west = device('west');
const far = device('far', 'same model, another device ID');
const other = device('other', 'is another model', false);
const ids = (devices: FittingDevice[], open?: string) => likeliestDevices(devices, open).map(({ id }) => id);

it('the one device that fits is the likeliest, and no other', () => {
	expect(ids([east, far, other])).toEqual(['east']);
	expect(ids([far, other])).toEqual(['far']);
	expect(ids([other])).toEqual([]);
	expect(ids([])).toEqual([]);
});

it('twins that nothing in the file tells apart are equally likely, but for the one whose drawer is open', () => {
	expect(ids([east, west, far, other])).toEqual(['east', 'west']);
	expect(ids([east, west, far, other], 'west')).toEqual(['west']);
});

it('an open drawer never wins over what the file says', () => {
	expect(ids([east, far, other], 'far')).toEqual(['east']);
	expect(ids([east, far, other], 'other')).toEqual(['east']);
});
