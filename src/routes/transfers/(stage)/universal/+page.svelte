<script lang="ts">
	import { Doing } from '$lib/ui/doing.svelte';
	import { problemOf } from '$lib/ui/words';
	import {
		generalMidi,
		MACHINE_COMMANDS,
		machineControl,
		masterVolume,
		readTuningDump,
		tuningDumpRequest,
		describeUniversal,
		type MachineCommand
	} from '$lib/core/sysex';
	import { carryOut } from '$lib/hardware/carry-out';
	import { desk } from '$lib/hardware/desk.svelte';
	import { midiDesk } from '$lib/hardware/midi-desk.svelte';
	import { realClock } from '$lib/hardware/real-clock';
	import { forgetPlayed } from '$lib/hardware/forget-played';
	import { overPorts } from '$lib/hardware/over-ports';
	import { sendAll } from '$lib/hardware/send-all';
	import { traffic } from '$lib/hardware/traffic.svelte';
	import { notices } from '$lib/ui/notices.svelte';
	import ProblemNote from '$lib/ui/ProblemNote.svelte';
	import FileDumpPanel from '$lib/ui/FileDumpPanel.svelte';
	import SamplePanel from '$lib/ui/SamplePanel.svelte';

	let { data } = $props();
	const doing = new Doing();
	// svelte-ignore state_referenced_locally
	let unit = $state(data.units[0]?.id ?? '');
	let out = $state('');
	let back = $state('');
	let deviceId = $state(127);
	let volume = $state(100);
	let machine = $state<MachineCommand>('stop');
	let program = $state(0);
	let tuning = $state.raw<{ name: string; pitches: (number | null)[] } | null>(null);
	const outs = $derived(midiDesk.present.filter(({ direction }) => direction === 'out'));
	const ins = $derived(midiDesk.present.filter(({ direction }) => direction === 'in'));

	async function send(bytes: Uint8Array) {
		await doing.run(async () => {
			if (desk.world === 'bench') await desk.sendOnBench(unit, [bytes]);
			else
				await overPorts({ out, back, says: 'a universal message' }, async (link) => {
					await forgetPlayed('hardware', { all: true });
					await carryOut(sendAll([bytes]), link, realClock);
				});
			notices.say(`Sent: ${describeUniversal(bytes)}.`, 'good');
		});
	}

	async function askTuning() {
		tuning = null;
		const stop = traffic.watch(({ way, bytes }) => {
			if (way !== 'received') return;
			try {
				tuning = readTuningDump(bytes) ?? tuning;
			} catch (error) {
				doing.problem = problemOf(error);
			}
		});
		await send(tuningDumpRequest(deviceId, program));
		stop();
		if (!tuning && !doing.problem)
			doing.problem = {
				message: 'No tuning dump came.',
				remedy: 'Not every device has one. Check the device ID and the program.'
			};
	}
</script>

<svelte:head><title>Universal messages · Silent Drawer</title></svelte:head>

<h2>Messages that every device may know</h2>
<p class="small-print max-w-prose">
	They need no profile. Whether a device follows them is in its own manual.
</p>
{#if doing.problem}<div class="mt-2"><ProblemNote problem={doing.problem} /></div>{/if}
<div class="mt-3 flex flex-wrap items-end gap-3">
	{#if desk.world === 'bench'}
		<div class="field">
			<label for="u-unit">To</label>
			<select id="u-unit" class="select" bind:value={unit}>
				{#each data.units as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
	{:else}
		<div class="field">
			<label for="u-out">Out</label>
			<select id="u-out" class="select" bind:value={out}>
				{#each outs as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="u-in">In</label>
			<select id="u-in" class="select" bind:value={back}>
				{#each ins as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
	{/if}
	<div class="field">
		<label for="u-id">Device ID (127: all)</label>
		<input id="u-id" class="input w-24" type="number" min="0" max="127" bind:value={deviceId} />
	</div>
</div>
<div class="mt-5 grid gap-6 md:grid-cols-2">
	<section aria-label="Sound">
		<h3>General MIDI and volume</h3>
		<p class="mt-2 flex flex-wrap gap-2">
			<button class="btn btn-sm" onclick={() => send(generalMidi(deviceId, 'on'))}>General MIDI on</button>
			<button class="btn btn-sm" onclick={() => send(generalMidi(deviceId, 'level 2 on'))}>Level 2 on</button>
			<button class="btn btn-sm" onclick={() => send(generalMidi(deviceId, 'off'))}>General MIDI off</button>
		</p>
		<div class="mt-3 flex items-end gap-2">
			<div class="field">
				<label for="u-volume">Master volume, %</label>
				<input id="u-volume" class="input w-24" type="number" min="0" max="100" bind:value={volume} />
			</div>
			<button
				class="btn btn-sm"
				onclick={() => send(masterVolume(deviceId, Math.round((volume / 100) * 16383)))}>Set it</button
			>
		</div>
		<p class="small-print mt-1">
			Turn amplifiers down first: a jump to 100 % can hurt ears and loudspeakers.
		</p>
	</section>
	<section aria-label="Machine">
		<h3>Machine control</h3>
		<div class="mt-2 flex items-end gap-2">
			<div class="field">
				<label for="u-machine">Command</label>
				<select id="u-machine" class="select" bind:value={machine}>
					{#each Object.keys(MACHINE_COMMANDS) as command (command)}<option value={command}>{command}</option
						>{/each}
				</select>
			</div>
			<button class="btn btn-sm" onclick={() => send(machineControl(deviceId, machine))}>Send it</button>
		</div>
	</section>
	<section aria-label="Tuning">
		<h3>Tuning dump</h3>
		<div class="mt-2 flex items-end gap-2">
			<div class="field">
				<label for="u-program">Tuning program</label>
				<input id="u-program" class="input w-24" type="number" min="0" max="127" bind:value={program} />
			</div>
			<button class="btn btn-sm" onclick={askTuning}>Ask for it</button>
		</div>
		{#if tuning}
			<p class="mt-2"><strong>{tuning.name || 'Unnamed tuning'}</strong></p>
			<p class="small-print">
				{tuning.pitches
					.slice(60, 72)
					.map(
						(pitch, i) =>
							`${60 + i}: ${pitch === null ? 'unchanged' : `${((pitch - 60 - i) * 100).toFixed(1)} ct`}`
					)
					.join(' · ')}
			</p>
		{/if}
	</section>
	<SamplePanel {deviceId} {out} {back} />
	<FileDumpPanel {deviceId} {out} {back} />
</div>
