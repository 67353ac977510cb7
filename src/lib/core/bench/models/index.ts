import type { Profile } from '../../profile';
import type { Clock } from '../../transfer';
import type { SimulatedDevice, UnitState } from '../unit';
import { Cairn } from './cairn';
import { Fathom } from './fathom';
import { Lantern } from './lantern';
import { Larch } from './larch';
import { Marl } from './marl';
import { Nadir } from './nadir';
import { Orrery } from './orrery';
import { Parallax } from './parallax';
import { Sallow } from './sallow';
import { Sconce } from './sconce';
import { Skiff } from './skiff';
import { Sluice } from './sluice';
import { Tally } from './tally';
import { Tarn } from './tarn';
import { Thrift } from './thrift';
import { Umbra } from './umbra';
import { Weir } from './weir';

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
	'osier-tarn': Tarn,
	'osier-weir-9': Weir,
	'fallow-larch-16': Larch,
	'quillon-sluice-16': Sluice,
	'harbeck-cairn': Cairn,
	'ostler-fathom': Fathom,
	'merrow-skiff': Skiff,
	'keld-tally': Tally,
	'corrie-sallow': Sallow,
	'selden-marl': Marl,
	'pellow-thrift': Thrift,
	'averill-sconce': Sconce,
	'averill-sconce-2': Sconce,
	'averill-sconce-2-card': Sconce
};
