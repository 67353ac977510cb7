import type { OpenSwitching, SwitchItem, Tick } from '../../core/care';
import { askDevice } from '../../hardware/ask-device';
import { call } from '../../hardware/api';
import { desk } from '../../hardware/desk.svelte';
import { sendAndHear, type LineEnds } from '../../hardware/send-and-hear';
import type { StoredLine } from '../../core/contact';
import { fromHex } from '../../core/midi';
import { isLike, type Profile } from '../../core/profile';
import type { Target } from '../../core/transfer';
import { Doing } from '../doing.svelte';

/** How a device of the list is reached. */
export interface Reach {
	line: StoredLine;
	profile: Profile | null;
	target: Target;
	ends: LineEnds;
}

/** A studio that is being switched on or off: ticks are the server's, one after another. */
export class SwitchingOnPage {
	now = $state.raw<OpenSwitching>()!;
	readonly doing = new Doing();
	/** What is being asked or sent, in words. */
	trying = $state('');
	/** What did not answer or did not take what was sent, by item. */
	silent = $state.raw<Readonly<Record<string, string>>>({});

	constructor(opened: OpenSwitching) {
		this.now = opened;
	}

	take(opened: OpenSwitching): void {
		if (opened.id !== this.now.id || opened.run.ticks.length >= this.now.run.ticks.length) this.now = opened;
	}

	tick(items: string[], how: Tick['how'], note = ''): Promise<boolean> {
		return this.doing.run(() => this.#put(items, how, note));
	}

	end(): Promise<boolean> {
		return this.doing.run(async () =>
			this.take(await call<OpenSwitching>('POST', `/switchings/${this.now.id}/end`))
		);
	}

	/** What the app can ask or send now: askable devices that are not ticked, and messages whose turn it is. */
	get ready(): SwitchItem[] {
		const { run, done } = this.now;
		return run.items.filter(
			({ id, what, askable, messages, after }) =>
				!done[id] &&
				((what === 'switch' && askable && run.way === 'on') ||
					(messages.length > 0 && after.every((each) => done[each])))
		);
	}

	/** Asks every device that can be asked, and sends what can be sent; each is ticked as far as it was shown. */
	carryOut(reach: Readonly<Record<string, Reach>>): Promise<boolean> {
		return this.doing.run(async () => {
			try {
				this.silent = {};
				// What is heard now may be what something else waits for.
				for (const asked of this.ready.filter(({ what }) => what === 'switch')) await this.#ask(asked, reach);
				for (const sent of this.ready.filter(({ messages }) => messages.length > 0))
					await this.#send(sent, reach);
			} finally {
				this.trying = '';
			}
		});
	}

	send(item: SwitchItem, reach: Readonly<Record<string, Reach>>): Promise<boolean> {
		return this.doing.run(async () => {
			try {
				await this.#send(item, reach);
			} finally {
				this.trying = '';
			}
		});
	}

	async #put(items: string[], how: Tick['how'], note = ''): Promise<void> {
		this.take(await call<OpenSwitching>('POST', `/switchings/${this.now.id}/ticks`, { items, how, note }));
	}

	#fell(item: SwitchItem, says: string): void {
		this.silent = { ...this.silent, [item.id]: says };
	}

	async #ask(item: SwitchItem, reach: Readonly<Record<string, Reach>>): Promise<void> {
		const to = reach[item.device];
		if (!to?.profile) return;
		this.trying = `Asking ${item.name}`;
		try {
			await askDevice(to.line, to.profile, to.target);
			await this.#put([item.id], 'heard');
		} catch (error) {
			this.#fell(item, error instanceof Error ? error.message : String(error));
		}
	}

	async #send(item: SwitchItem, reach: Readonly<Record<string, Reach>>): Promise<void> {
		const to = reach[item.device];
		if (!to) return;
		this.trying = `Sending to ${item.name}`;
		try {
			const messages = item.messages.map((hex) => fromHex(hex));
			const heard = await sendAndHear(to.ends, messages, item.ask ? fromHex(item.ask) : null);
			if (item.answer === '') await this.#put([item.id], 'sent');
			else if (heard.some((bytes) => isLike(bytes, item.answer))) await this.#put([item.id], 'proved');
			else
				this.#fell(
					item,
					heard.length === 0
						? `${item.name} did not answer the question that would show it. Look at its display.`
						: `${item.name} answered something else than what was wanted. Look at its display.`
				);
		} catch (error) {
			this.#fell(item, error instanceof Error ? error.message : String(error));
		}
	}

	/** Whether what is asked here would be of the studio's own world. */
	get elsewhere(): boolean {
		return desk.world !== this.now.world;
	}
}
