import type { HostPort } from './schema';

/** What a port of the computer is used for, in one sentence: “For playing; clock goes out there.” */
export function hostPortUse(port: HostPort): string {
	const uses = [port.playing ? 'playing' : '', port.control ? 'a control surface' : ''].filter(Boolean);
	const parts = [
		uses.length > 0 ? `for ${uses.join(' and ')}` : 'for nothing yet',
		port.direction === 'out' && port.clockOut ? 'clock goes out there' : '',
		port.direction === 'in' && port.sync ? 'the tempo is taken from there' : '',
		port.reserved === null ? '' : `channel ${port.reserved} is the host’s own`,
		port.hidden ? 'the system does not show it' : ''
	].filter(Boolean);
	const says = parts.join('; ');
	return `${says[0].toUpperCase()}${says.slice(1)}.`;
}
