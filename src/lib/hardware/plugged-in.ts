import { Problem } from '../core/problem';

/** The bench unit that a device of this name is plugged in to. @throws Problem `bench.unplugged` where there is none */
export function pluggedIn<U>(name: string, unit: U | null | undefined): U {
	if (unit) return unit;
	throw new Problem(
		'bench.unplugged',
		`“${name}” is plugged in to nothing.`,
		'Choose a bench unit for it on its Ports page.'
	);
}
