import { Framer } from '../core/sysex';
import type { Link } from '../core/transfer';

/** A message that passed, as plain data. */
export interface Seen {
	port: string;
	way: 'sent' | 'received';
	bytes: Uint8Array;
}

/** The same link, with every message that passes told to `tell`. */
export function watchedLink(link: Link, tell: (way: Seen['way'], bytes: Uint8Array) => void): Link {
	const ear = new Framer();
	const mouth = new Framer();
	const whole = (framer: Framer, way: Seen['way'], bytes: Uint8Array) => {
		for (const event of framer.push(bytes)) tell(way, event.bytes);
	};
	return {
		name: link.name,
		get connected() {
			return link.connected;
		},
		send(bytes, sent) {
			whole(mouth, 'sent', bytes);
			link.send(bytes, sent);
		},
		listen: (listener) =>
			link.listen({
				bytes(chunk) {
					whole(ear, 'received', chunk);
					listener.bytes(chunk);
				},
				unplugged: () => listener.unplugged(),
				plugged: () => listener.plugged()
			})
	};
}
