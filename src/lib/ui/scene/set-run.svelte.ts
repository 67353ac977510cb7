import { changeWarnings, sceneNumbered, type SetStep } from '../../core/scene';
import { BenchPlayer } from '../../hardware/bench-player';
import { desk } from '../../hardware/desk.svelte';
import { hearReceived } from '../../hardware/hear-received';
import { remembered } from '../remembered.svelte';
import type { OpenSet } from './open-set.svelte';
import { PanelEar } from './panel-ear.svelte';
import { SceneSender } from './scene-sender.svelte';

/** A foot switch, by what it says. */
interface Foot {
	controller: number;
	/** 1–16. */
	channel: number;
}

/** A set on stage: where it stands, what comes, and what the last scene came to. It outlives a reload. */
export class SetRun {
	readonly sender: SceneSender;
	readonly ear: PanelEar;
	/** The step whose scene was sent last; -1 before the first. */
	readonly #at = remembered('set-run', -1);
	readonly #foot = remembered<Foot | null>('set-foot', null);
	/** The next press of a foot is the one for going on. */
	learning = $state(false);
	/** It would get louder: it waits for another press. */
	asking = $state<number | null>(null);
	readonly #open: OpenSet;

	constructor(open: OpenSet) {
		this.#open = open;
		this.sender = new SceneSender(open);
		this.ear = new PanelEar(open, this.sender);
	}

	get steps(): SetStep[] {
		return this.#open.told.readiness.steps;
	}
	get at(): number {
		return Math.min(this.#at.value, this.steps.length - 1);
	}
	get foot(): Foot | null {
		return this.#foot.value;
	}

	/** Sends the scene of a step, and stands there. A press while one is being sent counts for nothing. */
	async go(to: number): Promise<void> {
		const step = this.steps[to];
		const scene = step && sceneNumbered(this.#open.set, step.scene);
		if (!scene || this.sender.doing.busy) return;
		const change = this.#open.changeTo(scene, desk.world);
		const loud = changeWarnings(this.#open.set, change).some((each) => each.loud);
		if (loud && this.asking !== to) {
			this.asking = to;
			return;
		}
		this.asking = null;
		this.#at.value = to;
		this.ear.forget();
		await this.sender.send(`${scene.number} ${scene.name}`, scene, change);
	}

	/** Goes to a scene that was called by its number: where it comes next, or else where it comes first. */
	call(scene: number): void {
		const later = this.steps.findIndex((step, at) => at > this.at && step.scene === scene);
		const to = later >= 0 ? later : this.steps.findIndex((step) => step.scene === scene);
		if (to >= 0) void this.go(to);
	}

	/** Presses a foot switch of the bench: the one that is known, or one to be learnt. */
	pressSimulated(): void {
		const { controller, channel } = this.foot ?? { controller: 80, channel: 1 };
		const foot = new BenchPlayer('Foot switch', channel);
		foot.pedal(controller, true);
		foot.pedal(controller, false);
	}

	/** Hears a foot switch on the ports of this tab: it goes on when it goes down. @returns what ends it */
	listen(): () => void {
		return hearReceived((bytes) => {
			if (bytes.length !== 3 || bytes[0] >> 4 !== 0xb || bytes[2] < 64) return;
			const heard = { controller: bytes[1], channel: (bytes[0] & 15) + 1 };
			if (this.learning) {
				this.#foot.value = heard;
				this.learning = false;
			} else if (this.foot?.controller === heard.controller && this.foot.channel === heard.channel)
				void this.go(this.at + 1);
		});
	}
}
