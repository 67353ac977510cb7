<script lang="ts">
	import { untrack } from 'svelte';
	import { lineWords } from '../../core/contact';
	import { desk } from '../../hardware/desk.svelte';
	import { tray } from '../../hardware/tray.svelte';
	import type { TrayRow } from '../../hardware/tray-row';
	import { askForArea, askForLinks } from '../../hardware/tray-rows';
	import ProblemNote from '../ProblemNote.svelte';
	import StateMark from '../StateMark.svelte';
	import When from '../When.svelte';
	import { count, duration } from '../words';
	import TrayConversion from './TrayConversion.svelte';
	import TrayLinks from './TrayLinks.svelte';

	/** A transfer before it begins: the line, what would be written, what the panel must show, what cannot be proved. */
	let { row }: { row: TrayRow } = $props();
	const found = $derived(tray.checkOf(row));
	const checked = $derived(found?.checked ?? null);
	const check = $derived(checked?.check ?? null);
	const restoring = $derived(row.direction === 'restore');
	const line = $derived(checked ? tray.lineOf(checked) : null);
	const contact = $derived(checked?.line.contacts.find(({ world }) => world === desk.world) ?? null);
	const ticks = $derived(checked ? tray.ticksOf(checked) : []);
	const dry = $derived(check?.dry ?? null);
	const changed = $derived(checked?.slots.filter(({ state }) => state !== 'already there') ?? []);
	const others = $derived(checked?.alsoHearing ?? null);
	/** What names the slots that are written, where there is anything to say of it. */
	const links = $derived(
		checked?.links && Object.values(checked.links).some((list) => list.length > 0) ? checked.links : null
	);
	const tooLong = $derived.by(() => {
		const adapter = checked?.adapter;
		if (!adapter || !check || adapter.longestBytes >= adapter.triedBytes) return false;
		return check.longestBytes > adapter.longestBytes;
	});
	// Another world, or ports that were opened: what holds there is looked at anew.
	$effect(() => {
		void [desk.world, row.key, row.pace];
		untrack(() => void tray.check(row));
	});

	function tickIt(id: string, on: boolean) {
		const ticked = row.ticked.filter((one) => one !== id);
		tray.change(row.key, { ticked: on ? [...ticked, id] : ticked });
	}
	/** The same with another part of the memory; chosen slots are given up for a whole area. */
	function choose(area: string | null) {
		void tray.ask(row, askForArea(row.ask, area));
	}
</script>

<section class="check" aria-label="Before it starts">
	<h3 class="text-lg">
		{restoring ? 'Restore' : 'Back up'}
		{row.name}{#if checked && restoring}<span class="small-print">
				&nbsp;from {checked.title}{#if checked.version}&nbsp;of <When at={checked.version.takenAt} />{checked
						.version.verified
						? ''
						: ', which is not verified'}{/if}</span
			>{/if}
	</h3>
	{#if !found}
		<p role="status">It is being looked at …</p>
	{:else if found.problem}
		<ProblemNote problem={found.problem} />
	{:else if checked && line}
		<p class="mt-1 flex flex-wrap items-center gap-x-2">
			<StateMark state={line.open ? 'quiet' : 'attention'} size={11} />
			<span
				><span class="small-print">{line.world === 'bench' ? 'Bench' : 'Hardware'}:</span>
				{lineWords(line)}</span
			>
		</p>
		<p class="small-print">
			{#if line.gap}{line.gap.says}
				{#if line.gap.action === 'find'}<a class="link-quiet" href="/gear/find?now">Find it</a>
				{:else if line.gap.action === 'plug'}<a class="link-quiet" href={`/gear/${row.deviceId}/ports`}
						>Choose a bench unit</a
					>
				{:else if line.gap.action === 'open ports'}<button
						class="link-quiet"
						onclick={() => desk.setWorld('hardware')}>Open the ports</button
					>
				{:else if line.gap.action === 'note the way'}<a class="link-quiet" href={`/gear/${row.deviceId}`}
						>See its line</a
					>{/if}
			{:else if contact}{contact.how === 'identity' ? 'It said who it is' : 'It sent its dump'} there <When
					at={contact.at}
				/>.{/if}
			{check?.answers
				? 'It is asked who it is first; if anybody else answers, nothing happens.'
				: check
					? 'This model does not say who it is: look that the right one is plugged in.'
					: ''}
		</p>

		<p class="mt-2 text-base" aria-live="polite">
			{#if dry && check}
				<strong
					>{dry.overwritten.length} of {count(check.wanted, 'slot')}
					{dry.overwritten.length === 1 ? 'differs' : 'differ'}{dry.unknown > 0 ? ' or may' : ''}, {dry
						.overwritten.length === 1
						? 'one is'
						: `${dry.overwritten.length} are`} written</strong
				>{dry.along > 0
					? `, and ${count(dry.along, 'neighbour')} along with them, unchanged`
					: ''}{dry.unknown > 0 ? `. Of ${dry.unknown} it is not known what they hold now` : ''}.
				{#if dry.readAt}By what was read <When at={dry.readAt} />.{/if}
				It is read first: what it holds then decides.
			{:else if check}
				<strong>{count(check.wanted, 'slot')}</strong>, {count(check.bytes, 'byte')}.
			{:else if restoring}
				<strong>{count(checked.rawMessages, 'message')}</strong> will be sent exactly as they were kept, with a
				rest after each.
			{:else}
				<strong>Everything that it sends</strong> is kept byte for byte, until it falls silent.
			{/if}
			{#if check}About {duration(checked.expectedMs / desk.factor)}{desk.factor > 1
					? ` at ${desk.factor} × wire speed`
					: ''}.{/if}
		</p>
		<ul class="mt-1 space-y-1">
			{#each checked.worn as control (control)}
				<li class="fact text-rust"><StateMark state="attention" size={11} /> It needs this: {control}</li>
			{/each}
			{#if restoring && check && check.unprovable.length < check.areas.length}
				<li class="fact">
					<StateMark state="quiet" size={11} /> What is overwritten is kept first; what was written is read back
					and compared.
				</li>
			{/if}
			{#if check?.byHand}
				<li class="fact">
					<StateMark state="quiet" size={11} /> The dump is started on the device: the app listens, and says when.
				</li>
			{/if}
			{#if others && others.surely.length > 0}
				<li class="fact text-rust">
					<StateMark state="attention" size={11} />
					<span
						>{others.surely.join(', ')}
						{others.surely.length === 1 ? 'hears' : 'hear'} channel {others.channel} on the same line: what this
						device is told reaches {others.surely.length === 1 ? 'it' : 'them'}, too. Turn the sound down, or
						give
						{others.surely.length === 1 ? 'it' : 'them'} another channel first.</span
					>
				</li>
			{/if}
			{#if others && others.perhaps.length > 0}
				<li class="fact">
					<StateMark state="attention" size={11} />
					<span
						>Perhaps {others.perhaps.join(', ')}, too: on which channel {others.perhaps.length === 1
							? 'it is'
							: 'they are'} is not noted.</span
					>
				</li>
			{/if}
			{#if check?.twice}
				<li class="fact">
					<StateMark state="quiet" size={11} /> What is told has no checksum: it is read twice, and counts where
					both are alike.
				</li>
			{/if}
			{#each check?.untold ?? [] as untold (untold)}
				<li class="fact">
					<StateMark state="attention" size={11} />
					<span
						>It never tells: {untold}
						<a class="link-quiet" href={`/gear/${row.deviceId}/settings`}>Note it by hand</a></span
					>
				</li>
			{/each}
			{#if check && check.unprovable.length > 0}
				<li class="fact text-rust">
					<StateMark state="attention" size={11} />
					{check.unprovable.join(', ')}: cannot be read. No copy of it is possible before, and nothing can be
					proved after: look at its display.
				</li>
			{/if}
			{#if !check && restoring}
				<li class="fact text-rust">
					<StateMark state="attention" size={11} /> No profile: nothing can be read back, and nothing is proved.
				</li>
			{:else if !check}
				<li class="fact">
					<StateMark state="quiet" size={11} /> No profile, no checksum that is known: it proves nothing unless
					it comes twice in the same way. Start its dump on its panel when the app listens.
				</li>
			{/if}
			{#if tooLong && checked.adapter}
				<li class="fact text-rust">
					<StateMark state="danger" size={11} /> The adapter of this port loses messages longer than {checked.adapter.longestBytes.toLocaleString(
						'en'
					)} bytes, and this device’s have up to {check!.longestBytes.toLocaleString('en')}. Use another
					adapter.
				</li>
			{/if}
			{#if checked.torn && !restoring}
				<li class="fact text-rust">
					<StateMark state="attention" size={11} /> A restore to it broke off: a backup now keeps what is half written.
					Bring that restore to an end first.
				</li>
			{/if}
			{#if dry && dry.impossible.length > 0}
				<li class="fact text-rust">
					<StateMark state="danger" size={11} /> The device does not take {dry.impossible.join(', ')} in this way.
				</li>
			{/if}
		</ul>

		{#if ticks.length > 0}
			<fieldset class="mt-2">
				<legend class="small-print">The panel of {row.name} must show</legend>
				{#each ticks as tick (tick.id)}
					<label class="flex items-start gap-2 py-0.5">
						<input
							type="checkbox"
							class="checkbox mt-0.5 checkbox-sm"
							checked={row.ticked.includes(tick.id)}
							onchange={(event) => tickIt(tick.id, event.currentTarget.checked)}
						/>
						<span
							>{tick.says}{#if tick.forgets}
								<span class="small-print">It forgets this at power-off.</span>{/if}</span
						>
					</label>
				{/each}
			</fieldset>
		{/if}
		{#if check && (check.areas.length > 1 || checked.chosen > 0) && checked.source?.from !== 'bank'}
			<fieldset class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
				<legend class="small-print">What</legend>
				{#if checked.chosen > 0}<label class="flex items-center gap-2"
						><input type="radio" class="radio radio-sm" name={`what-${row.key}`} checked /> The {count(
							checked.chosen,
							'chosen slot'
						)}</label
					>{/if}
				<label class="flex items-center gap-2"
					><input
						type="radio"
						class="radio radio-sm"
						name={`what-${row.key}`}
						checked={checked.chosen === 0 && !checked.area}
						onchange={() => choose(null)}
					/>
					Everything {restoring ? 'in it' : 'it can send'}</label
				>
				{#if check.areas.length > 1 || checked.area}
					{#each check.areas as area (area.id)}<label class="flex items-center gap-2"
							><input
								type="radio"
								class="radio radio-sm"
								name={`what-${row.key}`}
								checked={checked.area === area.id}
								onchange={() => choose(area.id)}
							/>
							{area.name} only</label
						>{/each}
				{/if}
			</fieldset>
		{/if}
		{#if checked.converted}<TrayConversion converted={checked.converted} />{/if}
		{#if links}<TrayLinks
				{links}
				wish={checked.source?.links ?? null}
				choose={(wish) => void tray.ask(row, askForLinks(row.ask, wish))}
			/>{/if}
		{#if changed.length > 0}
			<details class="mt-2">
				<summary class="cursor-pointer"
					>{changed.length === 1 ? 'The slot' : `The ${changed.length} slots`} that {changed.length === 1
						? 'is'
						: 'are'} written</summary
				>
				<ul class="mt-1 columns-2 gap-x-5 text-sm xl:columns-3" aria-label="Slots that are written">
					{#each changed as slot (slot.area + slot.index)}
						<li class="truncate">
							<span class="font-mono text-xs text-slate">{slot.label}</span>
							{slot.state === 'not known' ? '?' : (slot.now ?? '–')} →
							<strong>{slot.name ?? slot.area}</strong>
						</li>
					{/each}
				</ul>
			</details>
		{/if}
		<details class="mt-1">
			<summary class="cursor-pointer">Title{restoring ? '' : ', reason'} and pauses</summary>
			<div class="mt-2 grid max-w-2xl gap-3 sm:grid-cols-3">
				<div class="field">
					<label for={`title-${row.key}`}>Title</label><input
						id={`title-${row.key}`}
						class="input w-full input-sm"
						maxlength="80"
						value={row.title}
						oninput={(event) => tray.change(row.key, { title: event.currentTarget.value })}
						placeholder="Optional"
					/>
				</div>
				{#if !restoring}
					<div class="field">
						<label for={`kind-${row.key}`}>Reason</label>
						<select
							id={`kind-${row.key}`}
							class="select w-full select-sm"
							value={row.reason}
							onchange={(event) =>
								tray.change(row.key, {
									reason: event.currentTarget.value === 'routine' ? 'routine' : 'before update'
								})}
							><option value="routine">Routine backup</option><option value="before update"
								>Before an update</option
							></select
						>
					</div>
				{/if}
				<div class="field">
					<label for={`pace-${row.key}`}>Pauses between messages</label>
					<select
						id={`pace-${row.key}`}
						class="select w-full select-sm"
						value={row.pace}
						onchange={(event) => tray.change(row.key, { pace: Number(event.currentTarget.value) })}
						><option value={1}>As the profile says</option><option value={2}>Twice as long</option><option
							value={5}>Five times as long</option
						></select
					>
				</div>
			</div>
			{#if !check && !restoring}
				<label class="mt-2 flex items-center gap-2"
					><input
						type="checkbox"
						class="checkbox checkbox-sm"
						checked={row.twice}
						onchange={(event) => tray.change(row.key, { twice: event.currentTarget.checked })}
					/> Listen twice and compare: only then it counts as verified</label
				>
			{/if}
		</details>
	{/if}
</section>

<style>
	.fact {
		display: flex;
		align-items: baseline;
		gap: 0.4rem;
	}
</style>
