import type { Profile } from '../../profile';
import type { Clock } from '../../transfer';
import type { SimulatedDevice, UnitState } from '../unit';
import { Lantern } from './lantern';
import { Nadir } from './nadir';
import { Orrery } from './orrery';
import { Parallax } from './parallax';
import { Tarn } from './tarn';
import { Umbra } from './umbra';

type Model = new (
	profile: Profile,
	state: UnitState,
	clock: Clock,
	transmit: (bytes: Uint8Array) => void
) => SimulatedDevice;

/** Simulated devices by the id of the profile that describes them. */
export const MODELS: Record<string, Model> = {
	'vellbrook-orrery': Orrery,
	'tarnow-parallax': Parallax,
	'quillon-nadir': Nadir,
	'bessel-lantern': Lantern,
	'ternhill-umbra': Umbra,
	'osier-tarn': Tarn
};
