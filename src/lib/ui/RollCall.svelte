<script lang="ts">
	import { goto } from '$app/navigation';
	import type { Profile } from '../core/profile';
	import { matchRoll, type RollEntry, type RollResult } from '../core/rig';
	import { rollCall, type RollAnswer } from '../core/transfer';
	import { call } from '../hardware/api';
	import { carryOut } from '../hardware/carry-out';
	import { desk } from '../hardware/desk.svelte';
	import { midiDesk } from '../hardware/midi-desk.svelte';
	import { realClock } from '../hardware/real-clock';
	import ProblemNote from './ProblemNote.svelte';
	import { refresh } from './refresh';
	import StateMark from './StateMark.svelte';
	import { count, problemOf } from './words';

	interface Props {
		sockets: { port: string; name: string; direction: 'in' | 'out' }[];
		units: { id: string; name: string; profileId: string }[];
		devices: {
			id: string;
			name: string;
			profileId: string | null;
			deviceId: number | null;
			benchUnit: string | null;
			out: string | null;
		}[];
		profiles: Profile[];
	}
	/** Who is there: asks on every port and device ID, and matches the answers to the catalogue. */
	let { sockets, units, devices, profiles }: Props = $props();
	let heard = $state.raw<{ port: string; answer: RollAnswer }[] | null>(null);
	let called = $state.raw<string[]>([]);
	let calling = $state<string | null>(null);
	let problem = $state.raw<{ message: string; remedy: string } | null>(null);
	const result = $derived.by((): RollResult | null => {
		if (!heard) return null;
		const unitName = new Map(units.map(({ id, name }) => [id, name]));
		const found = matchRoll(
			heard,
			devices.map((device) => ({
				...device,
				port: desk.world === 'bench' ? (unitName.get(device.benchUnit ?? '') ?? null) : device.out
			})),
			profiles
		);
		const answered = new Set(found.entries.map(({ device }) => device?.id));
		const names = new Set(called);
		return {
			...found,
			silent: devices.flatMap(({ id, name, profileId, benchUnit, out }) => {
				const port = desk.world === 'bench' ? unitName.get(benchUnit ?? '') : out;
				const answers = profiles.find((profile) => profile.id === profileId)?.identity.answers;
				return answers && port && names.has(port) && !answered.has(id) ? [{ id, name, port }] : [];
			})
		};
	});

	async function callTheRoll() {
		problem = null;
		heard = null;
		const found: { port: string; answer: RollAnswer }[] = [];
		const ports: string[] = [];
		try {
			if (desk.world === 'bench') {
				for (const unit of units) {
					calling = unit.name;
					ports.push(unit.name);
					for (const { answers } of await desk.rollCallOnBench([unit.id]))
						found.push(...answers.map((answer) => ({ port: unit.name, answer })));
				}
			} else {
				for (const socket of sockets.filter(
					({ port, direction }) => direction === 'out' && midiDesk.knows(port, 'out')
				)) {
					calling = socket.name;
					ports.push(socket.name);
					const line = await midiDesk.openForRoll(socket);
					try {
						const { answers } = await carryOut(rollCall(), line.link, realClock);
						found.push(...answers.map((answer) => ({ port: socket.name, answer })));
					} finally {
						line.close();
					}
				}
			}
			heard = found;
			called = ports;
		} catch (error) {
			problem = problemOf(error);
		}
		calling = null;
	}

	async function add(entry: RollEntry) {
		const profile = profiles.find(({ id }) => id === entry.profileId);
		try {
			const { id } = await call<{ id: string }>('POST', '/devices', {
				name: profile
					? `${profile.model} on ${entry.port}`.slice(0, 60)
					: `Unknown device on ${entry.port}`.slice(0, 60),
				maker: profile?.maker ?? '',
				model: profile?.model ?? '',
				kind: profile?.kind ?? '',
				profileId: profile?.id ?? null,
				deviceId: Math.min(126, entry.identity.deviceId),
				ports: [
					{ id: 'in', name: 'MIDI in', direction: 'in', connector: 'din' },
					{ id: 'out', name: 'MIDI out', direction: 'out', connector: 'din' }
				]
			});
			await refresh();
			await goto(`/gear/${id}`);
		} catch (error) {
			problem = problemOf(error);
		}
	}
	const STATES = {
		'as planned': 'verified',
		'on another port': 'attention',
		'with another device ID': 'attention',
		unknown: 'quiet',
		'two units answer': 'danger'
	} as const;
</script>

<section aria-label="Roll call" class="mt-8">
	<div class="flex items-baseline gap-3">
		<h2 class="flex-1">Who is there</h2>
		<button class="btn btn-primary btn-sm" disabled={calling !== null} onclick={callTheRoll}
			>Call the roll</button
		>
	</div>
	<p class="small-print" role="status">
		{calling
			? `Calling on ${calling} …`
			: result
				? `${count(result.entries.length, 'device')} answered on ${count(called.length, 'port')}${result.silent.length > 0 ? `, ${result.silent.length} silent` : ''}.`
				: 'Asks on every port, every device ID. About two seconds a port.'}
	</p>
	{#if problem}<div class="mt-2"><ProblemNote {problem} /></div>{/if}
	{#if result}
		<table class="ledger-table mt-2">
			<thead
				><tr><th>Port</th><th>Answered</th><th>Which is</th><th><span class="sr-only">Do</span></th></tr
				></thead
			>
			<tbody>
				{#each result.entries as entry, i (i)}
					<tr>
						<td class="plate">{entry.port}</td>
						<td
							>{entry.model ?? 'unknown model'}<span class="small-print block"
								>device ID {entry.identity.deviceId}, firmware {entry.identity.version[0]}.{String(
									entry.identity.version[1]
								).padStart(2, '0')}</span
							></td
						>
						<td
							><span class="flex items-center gap-1.5"
								><StateMark state={STATES[entry.state]} size={11} />{entry.says}</span
							></td
						>
						<td class="text-right"
							>{#if entry.device}<a
									class="btn btn-xs"
									href={`/gear/${entry.device.id}`}
									aria-label={`Open ${entry.device.name}`}>Open</a
								>{:else if entry.state === 'unknown'}<button class="btn btn-xs" onclick={() => add(entry)}
									>Add it</button
								>{/if}</td
						>
					</tr>
				{/each}
				{#each result.silent as { id, name, port } (id)}
					<tr>
						<td class="plate">{port}</td>
						<td>nobody</td>
						<td
							><span class="flex items-center gap-1.5"
								><StateMark state="danger" size={11} />{name} should be here. Is it on, and are both its cables
								in?</span
							></td
						>
						<td class="text-right"
							><a class="btn btn-xs" href={`/gear/${id}/ports`} aria-label={`Ports of ${name}`}>Ports</a></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
</section>
