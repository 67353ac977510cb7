<script lang="ts">
	import { onMount } from 'svelte';
	import { max } from 'd3-array';
	import { scalePow, scaleSqrt } from 'd3-scale';
	import { format, formatDistanceToNowStrict } from 'date-fns';
	import { VERSION_KINDS, type VersionMark, type World } from '$lib/core/drawer';
	import { page } from '$app/state';
	import { nextTask } from './next-task.svelte';
	import { count, worldWord } from './words';

	interface Props {
		/** Newest first. */
		versions: VersionMark[];
		shown: string;
		other: string | null;
		show: (v: string | null, other: string | null) => void;
	}
	let { versions, shown: opened, other: against, show }: Props = $props();

	/** Where the handles were moved to; the page follows when they rest. */
	const REST_MS = 120;
	let moved = $state.raw<{ shown: string; other: string | null } | null>(null);
	let resting: ReturnType<typeof setTimeout> | undefined;
	const shown = $derived(moved?.shown ?? opened);
	const other = $derived(moved ? moved.other : against);
	function put(to: string, from: string | null) {
		moved = { shown: to, other: from };
		clearTimeout(resting);
		resting = setTimeout(() => {
			resting = undefined;
			show(to, from);
		}, REST_MS);
	}
	// What the page shows by now counts, unless the handles have gone on.
	$effect(() => {
		void [opened, against];
		if (resting === undefined) moved = null;
	});
	onMount(() => () => clearTimeout(resting));

	/** A drawer of thousands is drawn by the browser: the page with the version that is open comes first. */
	const AT_ONCE = 300;
	// svelte-ignore state_referenced_locally
	const drawing = nextTask(versions.length <= AT_ONCE);

	const HEIGHT = 138;
	const FLOOR = 92;
	const GAP = 13;
	const SIDE = 22;
	const DAY_MS = 86_400_000;
	let width = $state(900);
	const now = Date.now();
	const line = $derived(versions.toReversed());
	const age = (mark: VersionMark) => Math.max(0, (now - Date.parse(mark.takenAt)) / DAY_MS);
	const inner = $derived(Math.max(width, line.length * GAP + 2 * SIDE));
	// The last weeks matter most: time is drawn wide near today and closes up towards the past.
	const x = $derived(
		scalePow()
			.exponent(0.4)
			.domain([0, Math.max(7, age(line[0] ?? versions[0]))])
			.range([inner - SIDE, SIDE])
	);
	const height = $derived(
		scaleSqrt()
			.domain([0, Math.max(4, max(line, ({ changed }) => changed) ?? 4)])
			.range([4, 74])
	);
	/** Stacks stand where their time is, pushed apart where they would overlap. */
	const places = $derived.by(() => {
		const at = line.map((mark) => x(age(mark)));
		for (let i = at.length - 2; i >= 0; i--) at[i] = Math.min(at[i], at[i + 1] - GAP);
		if ((at[0] ?? 0) < SIDE) {
			at[0] = SIDE;
			for (let i = 1; i < at.length; i++) at[i] = Math.max(at[i], at[i - 1] + GAP);
		}
		return at;
	});
	const TICKS = [
		{ days: 0, says: 'today' },
		{ days: 7, says: 'a week' },
		{ days: 30, says: 'a month' },
		{ days: 91, says: '3 months' },
		{ days: 182, says: 'half a year' },
		{ days: 365, says: 'a year' },
		{ days: 3 * 365, says: '3 years' },
		{ days: 10 * 365, says: '10 years' }
	];
	const ticks = $derived(TICKS.filter(({ days }) => days <= x.domain()[1]));
	const index = (id: string | null) => line.findIndex((mark) => mark.id === id);
	const words = (mark: VersionMark) =>
		`${mark.title || VERSION_KINDS[mark.kind]}, ${formatDistanceToNowStrict(new Date(mark.takenAt), { addSuffix: true })}, ${count(mark.changed, 'slot')} changed, ${mark.verified ? 'verified' : 'not verified'}${worldWord(mark.world, page.data.world as World)}`;

	/** How far it is scrolled, in steps: what is far outside of the window is not drawn. */
	const STEP = 400;
	let scrolled = $state(0);
	const inSight = $derived.by(() => {
		const [from, to] = [scrolled - STEP, scrolled + width + 2 * STEP];
		return line.flatMap((mark, i) => (places[i] >= from && places[i] <= to ? [{ mark, at: places[i] }] : []));
	});
	/** Where it is scrolled to, in px; not asked of the page, which would have to lay itself out for it. */
	let left = 0;
	function scrollTo(px: number) {
		left = px;
		scrolled = Math.floor(px / STEP) * STEP;
	}
	/** The version that is open is in sight when the drawer opens, and when it is changed by a key. */
	let frame: HTMLElement | undefined = $state();
	$effect(() => {
		const [box, at] = [frame, places[index(shown)]];
		if (!box || at === undefined || inner <= width) return;
		if (at >= left + SIDE && at <= left + width - SIDE) return;
		// What will be in sight is drawn at once; the frame that lays the page out scrolls to it.
		scrollTo(Math.max(0, Math.min(inner - width, at - width / 2)));
		const next = requestAnimationFrame(() => (box.scrollLeft = left));
		return () => cancelAnimationFrame(next);
	});

	let svg: SVGSVGElement | undefined = $state();
	let dragged = $state<'shown' | 'other' | null>(null);
	/** Its words are put together when somebody points at it. */
	let hovered = $state<string | null>(null);

	function move(handle: 'shown' | 'other', to: number) {
		const mark = line[Math.min(line.length - 1, Math.max(0, to))];
		if (!mark) return;
		if (handle === 'shown') put(mark.id, other === mark.id ? null : other);
		else put(shown, mark.id === shown ? null : mark.id);
	}

	function keys(event: KeyboardEvent, handle: 'shown' | 'other') {
		const at = index(handle === 'shown' ? shown : other);
		const step = { ArrowLeft: at - 1, ArrowRight: at + 1, Home: 0, End: line.length - 1 }[event.key];
		if (step === undefined) return;
		event.preventDefault();
		move(handle, step);
	}

	function drag(event: PointerEvent) {
		if (!dragged || !svg) return;
		const at =
			((event.clientX - svg.getBoundingClientRect().left) / svg.getBoundingClientRect().width) * inner;
		let nearest = 0;
		places.forEach((place, i) => {
			if (Math.abs(place - at) < Math.abs(places[nearest] - at)) nearest = i;
		});
		if (line[nearest].id !== (dragged === 'shown' ? shown : other)) move(dragged, nearest);
	}

	function pick(event: MouseEvent, mark: VersionMark) {
		clearTimeout(resting);
		resting = undefined;
		if (event.shiftKey && mark.id !== shown) show(shown, mark.id);
		else show(mark.id, other === mark.id ? null : other);
	}
</script>

<svelte:window onpointermove={drag} onpointerup={() => (dragged = null)} />

<figure class="sheet bg-ground p-2" aria-label="Tide line: the versions in this drawer">
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div
		class="overflow-x-auto"
		bind:this={frame}
		bind:clientWidth={width}
		onscroll={(event) => scrollTo(event.currentTarget.scrollLeft)}
		tabindex="0"
		role="region"
		aria-label="Versions over time"
	>
		<svg
			bind:this={svg}
			width={inner}
			height={HEIGHT}
			class="block"
			role="group"
			aria-label={count(line.length, 'version')}
		>
			{#each ticks as tick (tick.days)}
				<g transform={`translate(${x(tick.days)} 0)`}>
					<line y1="10" y2={FLOOR} stroke="var(--color-line)" stroke-dasharray="1 4" />
					<text y={FLOOR + 40} text-anchor={tick.days === 0 ? 'end' : 'middle'} class="tick">{tick.says}</text
					>
				</g>
			{/each}
			<line x1="0" x2={inner} y1={FLOOR + 0.5} y2={FLOOR + 0.5} stroke="var(--color-slate)" />
			{#if other && index(other) >= 0 && index(shown) >= 0}
				<line
					x1={places[index(other)]}
					x2={places[index(shown)]}
					y1={FLOOR + 9}
					y2={FLOOR + 9}
					stroke="var(--color-chosen)"
					stroke-width="2"
				/>
			{/if}
			{#each drawing.due ? inSight : [] as { mark, at } (mark.id)}
				<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
				<g
					transform={`translate(${at} 0)`}
					class="pile"
					onpointerenter={() => (hovered = mark.id)}
					onclick={(event) => pick(event, mark)}
				>
					{#if hovered === mark.id}<title
							>{words(mark)} ({format(new Date(mark.takenAt), 'd MMM yyyy, HH:mm')})</title
						>{/if}
					<rect x={-GAP / 2} y="0" width={GAP} height={FLOOR} fill="transparent" />
					<rect
						x="-4.5"
						y={FLOOR - height(mark.changed)}
						width="9"
						height={height(mark.changed)}
						rx="1"
						fill={mark.verified ? 'var(--color-pine)' : 'var(--color-sheet)'}
						stroke={mark.verified
							? 'var(--color-pine)'
							: mark.missing > 0
								? 'var(--color-rust)'
								: 'var(--color-slate)'}
						stroke-width="1.5"
						stroke-dasharray={mark.missing > 0 ? '3 2' : undefined}
					/>
					{#if mark.pinned}<path
							d={`M0 ${FLOOR - height(mark.changed) - 3} l-4 -7 h8 Z`}
							fill="var(--color-brass)"
						/>{/if}
				</g>
			{/each}
			{#each [{ handle: 'other' as const, id: other, letter: 'from' }, { handle: 'shown' as const, id: shown, letter: other ? 'to' : 'open' }] as { handle, id, letter } (handle)}
				{@const at = index(id)}
				{#if at >= 0}
					<g
						transform={`translate(${places[at]} ${FLOOR + 9})`}
						role="slider"
						tabindex="0"
						class="handle"
						aria-label={handle === 'shown' ? 'Version that is open' : 'Version to compare with'}
						aria-valuemin="1"
						aria-valuemax={line.length}
						aria-valuenow={at + 1}
						aria-valuetext={words(line[at])}
						onkeydown={(event) => keys(event, handle)}
						onpointerdown={() => (dragged = handle)}
					>
						<path
							d="M0 -8 L7 3 H-7 Z"
							fill={handle === 'shown' ? 'var(--color-chosen)' : 'var(--color-ground)'}
							stroke="var(--color-chosen)"
							stroke-width="2"
						/>
						<text
							y="14"
							text-anchor={other ? (handle === 'shown' ? 'start' : 'end') : 'middle'}
							class="handle-word">{letter}</text
						>
					</g>
				{/if}
			{/each}
		</svg>
	</div>
	<figcaption class="small-print px-1">
		Each stack is a version, as high as the slots it changed; hollow until verified. Click one to open it,
		Shift-click to compare with it, or move the handles.
	</figcaption>
</figure>

<style>
	.tick {
		font-size: 11.5px;
		fill: var(--color-slate);
	}
	.handle-word {
		font: 600 11.5px var(--font-slab);
		fill: var(--color-ink);
	}
	.pile {
		cursor: pointer;
	}
	.pile:hover rect:nth-of-type(2) {
		stroke: var(--color-chosen);
	}
	.handle {
		cursor: ew-resize;
		touch-action: none;
	}
</style>
