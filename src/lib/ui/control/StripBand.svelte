<script lang="ts">
	import {
		addressShort,
		GESTURE_WORDS,
		laterViews,
		lineText,
		movesWindow,
		linked,
		rowWords,
		sharesOf,
		spokenFor,
		standing,
		tickOf,
		type ControlMap,
		type Gesture,
		type Line,
		type Standing,
		type SurfaceControl,
		type Walk
	} from '$lib/core/control';
	import type { Touch } from '$lib/core/bench';
	import { roving } from '../roving';
	import KeptField from '../KeptField.svelte';
	import ControlShape from './ControlShape.svelte';
	import StandMark from './StandMark.svelte';

	interface Props {
		map: ControlMap;
		page: number;
		row: string;
		controls: SurfaceControl[];
		/** Where controls stand, and where their values are. */
		standings: readonly Standing[];
		/** What stands in a field though it was not understood. */
		kept: { line: Line; text: string } | null;
		/** Controls that spoke last. */
		spoke: readonly string[];
		/** Whose turn it is. */
		due: string | null;
		walk: Walk | null;
		chosen: Line | null;
		/** On the bench, a hand for the drawn controls. */
		touch: ((control: string, how: Touch) => void) | null;
		/** Ends when it is kept, or said that it is not understood. */
		write: (line: Line, name: string, text: string) => Promise<unknown>;
		choose: (line: Line) => void;
	}
	let { map, page, row, controls, standings, kept, spoke, due, walk, chosen, touch, write, choose }: Props =
		$props();

	/** Taller bodies are drawn broken off: their strip must stay in sight. */
	const TALLEST = 30;
	const shares = $derived(sharesOf(controls));
	const from = $derived(shares[0].from);
	const width = $derived(shares.at(-1)!.to - from);
	const top = $derived(Math.min(...controls.map(({ y }) => y)));
	const height = $derived(
		Math.min(TALLEST, Math.max(...controls.map((control) => control.y + control.height - top)))
	);
	/** How a control stands whose value is elsewhere. */
	const apart = (id: string) =>
		standings.find(({ control, does }) => control === id && does !== 'fits' && does !== 'unknown');
	const gestures = $derived([...new Set(controls.flatMap((control) => control.gestures))]);
	let wanted = $state<Gesture | null>(null);
	const gesture = $derived(wanted && gestures.includes(wanted) ? wanted : gestures[0]);
	const lineOf = (control: SurfaceControl): Line => ({ page, control: control.id, gesture });
	const says = (control: SurfaceControl) =>
		gestures.length > 1 ? `${control.name}, ${GESTURE_WORDS[gesture]}` : control.name;

	/** Under a line: the message, and what the control's other gestures do. */
	function below(control: SurfaceControl): string[] {
		const messages = (standing(map, lineOf(control))?.assignment.links ?? []).flatMap((link) => {
			const { target } = linked(map, link);
			return target ? [addressShort(spokenFor(target.address, link.channel))] : [];
		});
		const others = control.gestures
			.filter((each) => each !== gesture)
			.map((each) => [GESTURE_WORDS[each], lineText(map, { page, control: control.id, gesture: each })])
			.filter(([, text]) => text)
			.map(([word, text]) => `${word}: ${text}`);
		const here = map.pages.find(({ number }) => number === page);
		const windows = here
			? [laterViews(map, here, control.id, gesture), movesWindow(here, control.id, gesture)]
			: [];
		return [...messages, ...windows.filter(Boolean), ...others];
	}
	const TICKS = {
		spoke: { glyph: '●', word: 'spoke for itself' },
		open: { glyph: '○', word: 'not heard yet' },
		twice: { glyph: '✕', word: 'heard again' }
	} as const;
	const tick = (id: string) => {
		const walked = walk?.controls.find(({ control }) => control === id);
		return walked ? TICKS[tickOf(walked)] : null;
	};

	function keys(event: KeyboardEvent & { currentTarget: HTMLInputElement }, control: SurfaceControl) {
		const field = event.currentTarget;
		if (event.key === 'Escape') field.value = lineText(map, lineOf(control));
		if (event.key !== 'Enter') return;
		event.preventDefault();
		const fields = [...document.querySelectorAll<HTMLInputElement>('input.on-strip')];
		const next = fields[fields.indexOf(field) + (event.shiftKey ? -1 : 1)];
		if (next) next.focus();
		else field.blur();
	}
</script>

<section
	aria-label={rowWords(row)}
	class="band"
	style:--least={`${shares.length * 6.2}rem`}
	style:--own={`${width * 3.3}px`}
>
	<div class="mb-1 flex items-center gap-3">
		<h2 class="plate text-sm text-slate">{rowWords(row)}</h2>
		{#if gestures.length > 1}
			<div class="flex gap-1" role="group" aria-label={`What is written for, ${rowWords(row)}`}>
				{#each gestures as each (each)}
					<button
						class={['btn btn-xs', each === gesture && 'is-chosen']}
						aria-pressed={each === gesture}
						onclick={() => (wanted = each)}>{GESTURE_WORDS[each]}</button
					>
				{/each}
			</div>
		{/if}
	</div>
	<div class="body" style:aspect-ratio={`${width} / ${height}`} {@attach roving('button.hand')}>
		<svg viewBox={`${from} ${top} ${width} ${height}`} aria-hidden="true">
			{#each controls as control (control.id)}
				<ControlShape
					{control}
					tallest={TALLEST}
					due={control.id === due}
					spoke={spoke.includes(control.id)}
				/>
			{/each}
		</svg>
		{#if touch}
			{#each controls as control (control.id)}
				<button
					class="hand"
					aria-label={`Touch ${control.name}`}
					style:left={`${((control.x - from) / width) * 100}%`}
					style:top={`${((control.y - top) / height) * 100}%`}
					style:width={`${(control.width / width) * 100}%`}
					style:height={`${(Math.min(control.height, TALLEST) / height) * 100}%`}
					onclick={() => touch(control.id, gesture)}
				></button>
			{/each}
		{/if}
	</div>
	<ol class="paper">
		{#each shares as { control, from: left, to } (control.id)}
			{@const line = lineOf(control)}
			{@const mark = tick(control.id)}
			{@const mine =
				kept?.line.page === page && kept.line.control === control.id && kept.line.gesture === gesture
					? kept
					: null}
			<li
				style:width={`${((to - left) / width) * 100}%`}
				class={[
					chosen?.control === control.id && chosen.gesture === gesture && 'chosen',
					spoke.includes(control.id) && 'spoke',
					control.id === due && 'due'
				]}
			>
				{#if mark}<span class="tick"
						><span aria-hidden="true">{mark.glyph}</span><span class="sr-only"
							>{control.name}: {mark.word}</span
						></span
					>{/if}
				<KeptField
					class="on-strip"
					list="targets"
					aria-label={says(control)}
					aria-invalid={mine ? 'true' : undefined}
					aria-describedby={mine ? 'not-understood' : undefined}
					placeholder={control.name}
					value={mine?.text ?? lineText(map, line)}
					onfocus={() => choose(line)}
					onkeydown={(event) => keys(event, control)}
					save={(text) => write(line, says(control), text)}
				/>
				{#if apart(control.id)}<StandMark standing={apart(control.id)!} name={control.name} />{/if}
				{#each below(control) as text (text)}<span class="also">{text}</span>{/each}
			</li>
		{/each}
	</ol>
</section>

<style>
	/* On a narrow screen a band is wider than the page, and scrolled by itself: its cells stay readable. */
	.band {
		width: min(100%, max(var(--least), var(--own)));
		overflow-x: auto;
		padding: 2px;
	}
	.body,
	.paper {
		min-width: calc(var(--least) * 0.75);
	}
	.body {
		position: relative;
		width: 100%;
	}
	.body svg {
		display: block;
		width: 100%;
		height: 100%;
	}
	.hand {
		position: absolute;
		cursor: pointer;
		border-radius: 4px;
	}
	.hand:hover {
		background: color-mix(in srgb, var(--color-brass) 14%, transparent);
	}
	.paper {
		display: flex;
		margin-top: 2px;
		border: 1px solid var(--color-line);
		background: var(--color-sheet);
	}
	.paper li {
		position: relative;
		min-width: 0;
		min-height: 3.2rem;
		padding: 1px 2px 3px;
		border-bottom: 3px solid transparent;
		text-align: center;
	}
	.paper li + li {
		border-left: 1px dashed var(--color-line);
	}
	.paper li.spoke {
		border-bottom-color: var(--color-pine);
	}
	.paper li.due {
		border-bottom-color: var(--color-going);
		border-bottom-style: dashed;
	}
	.paper li.chosen {
		background: var(--color-ground);
	}
	.paper :global(.on-strip) {
		width: 100%;
		min-height: 1.75rem;
		text-align: center;
		font-family: var(--font-slab);
		text-overflow: ellipsis;
	}
	.paper :global(.on-strip:focus) {
		outline: none;
	}
	.paper li:focus-within {
		outline: 2px solid var(--color-chosen);
		outline-offset: 1px;
	}
	.paper :global(.on-strip::placeholder) {
		color: var(--color-slate);
		font-family: var(--font-sans);
		font-size: 0.85rem;
	}
	.paper :global(.on-strip[aria-invalid]) {
		color: var(--color-rust);
		text-decoration: underline wavy;
	}
	.also {
		display: block;
		overflow: hidden;
		color: var(--color-slate);
		font-size: 0.78rem;
		line-height: 1.15;
		text-overflow: ellipsis;
	}
	.tick {
		position: absolute;
		top: 0;
		left: 4px;
		font-size: 0.8rem;
	}
</style>
