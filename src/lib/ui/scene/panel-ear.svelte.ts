import { untrack } from 'svelte';
import { call } from '../../hardware/api';
import type { Profile } from '../../core/profile';
import { readBack, toldItself, type SentTo, type ToldItself } from '../../core/scene';
import { desk } from '../../hardware/desk.svelte';
import { hearReceived } from '../../hardware/hear-received';
import { midiDesk } from '../../hardware/midi-desk.svelte';
import type { OpenSet } from './open-set.svelte';
import type { SceneSender } from './scene-sender.svelte';

type Ear = (bytes: Uint8Array) => ToldItself | null;

/** Hears instruments that tell by themselves what a hand chose at their panel: what is known of them follows. */
export class PanelEar {
	/** What was chosen since the last scene was sent, and how it stands against the desk. */
	chosen = $state.raw<SentTo[]>([]);
	readonly #open: OpenSet;
	readonly #sender: SceneSender;

	constructor(open: OpenSet, sender: SceneSender) {
		this.#open = open;
		this.#sender = sender;
	}

	/** The names that what comes from an instrument is heard under: of its unit, its line, its port of the computer. */
	#portsOf(instrument: string): (string | undefined)[] {
		const line = this.#open.lines.lines[instrument];
		if (!line) return [];
		if (desk.world === 'bench') return [line.unit?.name];
		const { way } = line;
		const socket = midiDesk.sockets?.find(
			({ key, direction }) => direction === 'in' && key === way?.in?.port
		);
		return [socket?.port?.name, way?.in?.name, way?.out?.name];
	}

	/** Listens until the answer is called: for an effect. */
	listen(): () => void {
		const { asked } = this.#open.lines;
		// Where each is heard is looked up when ports change, not with every message.
		const ports = Object.fromEntries(Object.keys(asked).map((id) => [id, this.#portsOf(id)]));
		return untrack(() => {
			// Nothing that is drawn reads it.
			const ears: Record<string, Ear> = {};
			for (const [instrument, { profile, deviceId, channel }] of Object.entries(asked))
				void call<Profile>('GET', `/profiles/${profile}`).then(
					(read) => {
						const ear = toldItself(read, { deviceId, channel });
						if (ear) ears[instrument] = ear;
					},
					// Without it nothing is claimed: what it plays stays as it was sent.
					() => undefined
				);
			return hearReceived((bytes, port) => {
				for (const [instrument, ear] of Object.entries(ears)) {
					if (!ports[instrument].includes(port)) continue;
					const told = ear(bytes);
					if (told) this.#take(instrument, told);
				}
			});
		});
	}

	/** What is known is of what was chosen at the panel from here on. */
	#take(instrument: string, { channel, plays }: ToldItself): void {
		// While a scene is being sent, an answer is to its question.
		if (channel === null && (this.#sender.doing.busy || this.#sender.takeLate(instrument, plays))) return;
		const row = readBack(this.#open.set, this.#open.desk, instrument, plays, channel);
		void this.#sender.tell(instrument, row.said?.channel ?? null, row.said?.selected ?? null);
		if (this.#sender.doing.busy) return;
		this.chosen = [...this.chosen.filter((one) => one.instrument !== instrument), row];
	}

	/** A scene was sent: what was chosen before it counts no more. */
	forget(): void {
		this.chosen = [];
	}
}
