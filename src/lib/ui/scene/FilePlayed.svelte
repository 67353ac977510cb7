<script lang="ts">
	import { recordingOf } from '$lib/core/control';
	import {
		fileExpects,
		guessedName,
		keysName,
		placesPlayed,
		playThrough,
		programsToDesk,
		setupOf,
		type ChannelExpects
	} from '$lib/core/scene';
	import { Doing } from '../doing.svelte';
	import FilePick from '../FilePick.svelte';
	import { count } from '../words';
	import type { OpenSet } from './open-set.svelte';
	import { WHY_SILENT } from './zone-words';

	/** A Standard MIDI File played through the desk: who sounds what, what is lost, and what it asks of instruments. */
	let { open }: { open: OpenSet } = $props();
	const doing = new Doing();
	let file = $state.raw<{ name: string; recording: ReturnType<typeof recordingOf> } | null>(null);

	const take = (picked: File) =>
		doing.run(async () => {
			file = null;
			file = { name: picked.name, recording: recordingOf(new Uint8Array(await picked.arrayBuffer())) };
		});
	const through = $derived.by(() => {
		if (!file) return null;
		const { heard, untilMs } = file.recording;
		const played = playThrough(setupOf(open.set, open.desk), heard, untilMs);
		return { ...placesPlayed(played), nobodys: played.nobodys, unplayed: played.unplayed };
	});
	const expects = $derived(file && fileExpects(file.recording.heard, file.recording.untilMs));
	const programs = $derived(expects ? programsToDesk(open.set, expects) : []);
	const programWords = (one: ChannelExpects) =>
		one.programs
			.map(
				(program) =>
					`program ${program.program} from 0${program.msb === null ? '' : `, bank ${program.msb}`}${program.lsb === null ? '' : `, LSB ${program.lsb}`}: by General MIDI ${guessedName(one, program)}`
			)
			.join('; ');
</script>

<div class="mt-3 flex flex-wrap items-center gap-3">
	<FilePick title="Play a MIDI file through" accept=".mid,.midi,.smf" picked={take} />
	{#if file}<button class="btn btn-ghost btn-sm" onclick={() => (file = null)}
			>Put away<span class="sr-only">{` ${file.name}`}</span></button
		>{/if}
</div>
{#if doing.problem}<p role="alert" class="text-rust">{doing.problem.message} {doing.problem.remedy}</p>{/if}
{#if file && through && expects}
	<section aria-label={`${file.name}, played through`} class="mt-2 border-l-2 border-line pl-3">
		<p class="plate">{file.name}</p>
		{#each file.recording.damage as says (says)}<p class="text-rust">Not read: {says}.</p>{/each}
		<ul>
			{#each through.places as place (`${place.instrument} ${place.channel}`)}
				<li class="figures">
					{open.nameOf(place.instrument)}{place.channel === 0
						? ', its own keys'
						: `, channel ${place.channel}`}: {count(place.notes, 'note')}, {keysName(place.keys)}, velocity {place
						.velocities[0]}–{place.velocities[1]}, {place.most} at once{place.cut > 0
						? `, ${place.cut} cut off: it has no more voices`
						: ''}
				</li>
			{:else}<li>By what is on the desk nobody plays any of it.</li>{/each}
			{#each through.dropped as { zone, instrument, why, keys }, i (i)}
				<li class="small-print">
					{open.zoneName(zone)}{instrument ? ` on ${open.nameOf(instrument)}` : ''}: {count(keys, 'key')} without
					a note, for {WHY_SILENT[why]}.
				</li>
			{/each}
			{#if through.unplayed > 0}
				<li class="small-print">{count(through.unplayed, 'key')} that no zone has which is on.</li>
			{/if}
			{#if through.nobodys > 0}
				<li class="small-print">
					{count(through.nobodys, 'message')} on channels that no player sends on.
				</li>
			{/if}
		</ul>
		<details class="mt-2" open={programs.length > 0}>
			<summary class="cursor-pointer">What the file expects</summary>
			<ul class="figures text-sm">
				{#each expects.channels as one (one.channel)}
					<li>
						Channel {one.channel}: {one.programs.length > 0
							? programWords(one)
							: 'no program, whatever is played there'}{one.keys
							? `; ${count(one.notes, 'note')}, ${keysName(one.keys)}, ${one.most} at once`
							: ''}{one.unsaid && one.programs.length > 0 ? '; notes come before its first program' : ''}
					</li>
				{/each}
			</ul>
			<p class="small-print">
				{expects.turnsOn === null
					? 'It does not say whether it is meant for General MIDI.'
					: expects.turnsOn
						? 'It turns General MIDI on.'
						: 'It turns General MIDI off.'}
				{expects.beyondGeneralMidi.length === 0
					? 'Nothing in its programs, drums and notes at once goes beyond General MIDI 1. '
					: `${expects.beyondGeneralMidi.join(' ')} `}Names by General MIDI are a guess for an instrument that
				is not known to follow it.
			</p>
			{#if programs.length > 0}
				<button
					class="btn mt-1 btn-xs"
					disabled={open.doing.busy}
					onclick={() => void open.edit(`Programs of ${file!.name}`, (set) => programsToDesk(set, expects))}
					>Put its first programs on the desk</button
				>
			{/if}
		</details>
	</section>
{/if}
