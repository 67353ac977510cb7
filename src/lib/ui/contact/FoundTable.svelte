<script lang="ts">
	import type { Found, News, Surroundings } from '../../core/contact';
	import { socketName } from '../../core/contact';
	import { desk } from '../../hardware/desk.svelte';
	import StateMark from '../StateMark.svelte';
	import { count } from '../words';
	import { finder } from '../../hardware/finder.svelte';
	import { notices } from '../notices.svelte';
	import { canDescribe, itemOf, take, withDescriptions } from './take-found';

	/** Who answered, who it is likeliest to be, and what taking it would note. */
	let { found, around }: { found: readonly Found[]; around: Surroundings } = $props();
	let names = $state<Record<string, string>>({});
	/** Whom the musician says that it is: a device's id, or `new`. */
	let who = $state<Record<string, string>>({});
	let taking = $state(false);

	const keyOf = ({ heard }: Found) => `${heard.out.id} ${heard.in.id} ${heard.identity.deviceId}`;
	/** Two that answer as one cannot be told apart: which of them is it? */
	const takeable = (one: Found) => one.news.length > 0 && one.heard.units === 1;
	const open = $derived(found.filter(takeable));
	const kept = $derived(found.filter((one) => one.news.length === 0 && one.entry.device));
	const readable = $derived(
		kept.filter(
			({ entry }) => (around.profiles.find(({ id }) => id === entry.profileId)?.capture.length ?? 0) > 0
		)
	);
	const WORDS: Record<News, string> = {
		device: 'the device',
		cables: 'its cables',
		ports: 'which port is which',
		'device ID': 'its device ID',
		unit: 'the unit that it is',
		profile: 'which variant it is now'
	};
	/** What answered by its model alone may be another unit of it. */
	const unsure = (one: Found) =>
		one.entry.device !== null &&
		one.news.some((news) => news === 'device ID' || news === 'cables' || news === 'unit');
	const deviceOf = (one: Found) => {
		const said = who[keyOf(one)];
		return said === 'new' ? null : said || (one.entry.device?.id ?? null);
	};
	const units = (one: Found) => around.devices.filter(({ profileId }) => profileId === one.entry.profileId);
	const listed = (words: string[]) =>
		words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
	const markOf = (one: Found) =>
		one.heard.units > 1 ? 'danger' : one.news.length === 0 ? 'verified' : 'attention';
	const where = ({ heard }: Found) => {
		const [out, back] = [socketName(around, heard.out), socketName(around, heard.in)];
		return out === back ? out : `${out} → ${back}`;
	};
	const id = ({ heard, entry }: Found) =>
		heard.identity.deviceId +
		(around.profiles.find((profile) => profile.id === entry.profileId)?.addressing.deviceId?.panelAdd ?? 0);
	const version = ({ heard }: Found) =>
		`${heard.identity.version[0]}.${String(heard.identity.version[1]).padStart(2, '0')}`;

	async function takeThese(list: readonly Found[]) {
		if (taking) return;
		taking = true;
		// What is asked to describe itself needs its ports for that.
		if (list.some(canDescribe)) finder.stop();
		const { known, failed } = await withDescriptions(list, around);
		await take(known.map((one) => itemOf(one, names[keyOf(one)] ?? '', deviceOf(one))));
		if (failed.length > 0) notices.say(failed.join(' '), 'bad');
		taking = false;
	}
</script>

<section class="mt-3" aria-label="What answered">
	<div class="flex flex-wrap items-center gap-2">
		<h2 class="flex-1">Answered</h2>
		{#if open.length > 0}
			<button class="btn btn-primary" disabled={taking} onclick={() => takeThese(open)}
				>{open.length === 1
					? 'Take it into the catalogue'
					: `Take all ${open.length} into the catalogue`}</button
			>
		{:else if readable.length > 0}
			<a
				class="btn btn-primary"
				href={readable.length === 1
					? `/transfers/new?device=${readable[0].entry.device!.id}`
					: '/transfers/studio'}
				>{readable.length === 1
					? `Back up ${readable[0].entry.device!.name}`
					: `Back up all ${readable.length}`}</a
			>
		{/if}
	</div>
	<div class="mt-1 overflow-x-auto">
		<table class="ledger-table">
			<thead>
				<tr
					><th>{desk.world === 'bench' ? 'Unit' : 'Asked at → came in at'}</th><th>Answered</th><th
						>Which is</th
					><th><span class="sr-only">Do</span></th></tr
				>
			</thead>
			<tbody>
				{#each found as one (keyOf(one))}
					<tr>
						<td class="plate">{where(one)}</td>
						<td
							>{one.entry.model ??
								(canDescribe(one) ? 'Can say itself what it is' : 'A model that no profile knows')}<span
								class="small-print block"
								>{one.heard.identity.deviceId === 127 ? '' : `device ID ${id(one)}, `}firmware {version(
									one
								)}</span
							></td
						>
						<td>
							<span class="flex items-center gap-1.5"
								><StateMark state={markOf(one)} size={11} />
								<span
									>{one.news.length === 0 && one.entry.device
										? `This is your ${one.entry.device.name}, noted just so.`
										: canDescribe(one) && one.heard.units === 1
											? 'New here: no profile knows it, but it can be asked what it is.'
											: one.entry.says.replace(' Add it?', '')}</span
								></span
							>
							{#if takeable(one)}<span class="small-print block"
									>{canDescribe(one) ? 'Taking it asks it what it is and what it keeps, and' : 'Taking it'} notes
									{listed(one.news.map((news) => WORDS[news]))}.</span
								>{/if}
							{#if takeable(one) && unsure(one)}
								<span class="mt-1 flex items-center gap-2">
									<span class="small-print" aria-hidden="true">It is</span>
									<select
										class="select w-44 select-sm"
										aria-label={`Which one answered at ${where(one)}`}
										bind:value={who[keyOf(one)]}
									>
										<option value={undefined}>{one.entry.device!.name}</option>
										{#each units(one).filter(({ id: device }) => device !== one.entry.device!.id) as device (device.id)}
											<option value={device.id}>{device.name}</option>
										{/each}
										<option value="new">another one, new</option>
									</select>
								</span>
							{/if}
							{#if takeable(one) && deviceOf(one) === null}
								<label class="mt-1 flex items-center gap-2">
									<span class="small-print">Name</span>
									<input
										class="input w-44 input-sm"
										maxlength="60"
										placeholder={around.profiles.find(({ id: profile }) => profile === one.entry.profileId)
											?.model ?? 'Unknown device'}
										bind:value={names[keyOf(one)]}
									/>
								</label>
							{/if}
						</td>
						<td class="text-right whitespace-nowrap">
							{#if takeable(one)}
								<button
									class="btn btn-sm"
									disabled={taking}
									aria-label={`Take what answered at ${where(one)}`}
									onclick={() => takeThese([one])}>Take it</button
								>
							{:else if one.entry.device}
								<a
									class="btn btn-sm"
									href={`/gear/${one.entry.device.id}`}
									aria-label={`Open ${one.entry.device.name}`}>Open</a
								>
							{/if}
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	{#if found.some(({ heard }) => heard.units > 1)}
		<p class="small-print mt-1">
			{count(found.filter(({ heard }) => heard.units > 1).length, 'row')} with two units that answer as one: give
			one of them another device ID on its panel, then look again.
		</p>
	{/if}
</section>
