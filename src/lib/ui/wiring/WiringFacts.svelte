<script lang="ts">
	import {
		ALL_CHANNELS,
		canReceive,
		channelWords,
		firstFeeds,
		hasVoice,
		isMidi,
		panelId,
		portName,
		indexRig,
		playingHost,
		type Rig,
		type RigDevice,
		type RigChange
	} from '$lib/core/rig';
	import { changeRig } from './change-rig';

	/** What a device does with messages; each field is kept as soon as it is changed. */
	let { rig, device }: { rig: Rig; device: RigDevice } = $props();
	const index = $derived(indexRig(rig));
	const setting = $derived(index.settings.get(device.id));
	const voice = $derived(hasVoice(device));
	const heard = $derived(device.ports.some((port) => isMidi(port) && canReceive(port)));
	const feed = $derived(
		firstFeeds(rig).find(({ hearers }) => hearers.some((hearer) => hearer.device.id === device.id))
	);
	const outs = $derived(
		[...index.ports.values()].filter(
			({ role, port }) => role === 'interface' && port.direction === 'out' && port.connector !== 'audio'
		)
	);

	/** The host that plays it today, if the wiring says so. */
	const played = $derived.by(() => {
		const found = playingHost(index, { ...device, wants: { ...device.wants, host: undefined } });
		return found?.known ? found.host : null;
	});

	type Facts = Extract<RigChange, { do: 'wire' }>['wiring'];
	const wire = (wiring: Facts, says: string) =>
		changeRig([{ do: 'wire', device: device.id, wiring }], `${device.name}: ${says}.`);
	const set = (values: { channel?: number | null; deviceId?: number | null }, says: string) =>
		changeRig([{ do: 'set', device: device.id, ...values }], `${device.name}: ${says}.`);

	/** Channels as people write them: `1-4, 10`. */
	function readChannels(text: string): number[] {
		const found = text.split(',').flatMap((part) => {
			const [from, to] = part.split(/[-–]/).map((word) => Number(word.trim()));
			if (!Number.isInteger(from)) return [];
			return ALL_CHANNELS.filter((channel) => channel >= from && channel <= (to ?? from));
		});
		return [...new Set(found)].sort((a, b) => a - b);
	}
	const numberIn = (event: Event & { currentTarget: HTMLInputElement }) =>
		event.currentTarget.value === '' ? null : Number(event.currentTarget.value);
</script>

{#snippet toggle(label: string, checked: boolean, act: (on: boolean) => unknown)}
	<label class="flex items-center gap-2"
		><input
			type="checkbox"
			class="checkbox checkbox-sm"
			{checked}
			onchange={(event) => act(event.currentTarget.checked)}
		/>
		{label}</label
	>
{/snippet}

<div class="grid gap-3 sm:grid-cols-2 xl:grid-cols-4">
	{#if voice && heard}
		<div class="field">
			<label for="wf-channel">Channel{device.receive.parts > 1 ? ' (first part)' : ''}</label>
			<select
				id="wf-channel"
				class="select w-full select-sm"
				value={setting?.channel ?? ''}
				onchange={(event) => {
					const channel = event.currentTarget.value === '' ? null : Number(event.currentTarget.value);
					void set({ channel }, channel === null ? 'no channel' : `channel ${channel}`);
				}}
			>
				<option value="">Not noted</option>
				{#each ALL_CHANNELS as channel (channel)}<option value={channel}>{channel}</option>{/each}
			</select>
		</div>
		<div class="field">
			<label for="wf-able">Can receive on</label>
			<input
				id="wf-able"
				class="input w-full input-sm"
				value={channelWords(device.receive.channels)}
				onchange={(event) => {
					const channels = readChannels(event.currentTarget.value);
					if (channels.length > 0)
						void wire({ receive: { ...device.receive, channels } }, `receives on ${channelWords(channels)}`);
					else event.currentTarget.value = channelWords(device.receive.channels);
				}}
			/>
		</div>
		<div class="field">
			<label for="wf-parts">Parts</label>
			<input
				id="wf-parts"
				type="number"
				min="1"
				max="16"
				class="input w-full input-sm"
				value={device.receive.parts}
				onchange={(event) => {
					const parts = Math.min(16, Math.max(1, Math.round(numberIn(event) ?? 1)));
					void wire({ receive: { ...device.receive, parts } }, `${parts} parts`);
				}}
			/>
		</div>
		<div class="field">
			<label for="wf-traffic">Expected traffic, bytes/s</label>
			<input
				id="wf-traffic"
				type="number"
				min="0"
				max="3125"
				step="10"
				class="input w-full input-sm"
				value={device.wants.bytesPerSecond}
				onchange={(event) => {
					const bytesPerSecond = Math.min(100000, Math.max(0, numberIn(event) ?? 0));
					void wire({ wants: { ...device.wants, bytesPerSecond } }, `${bytesPerSecond} bytes/s expected`);
				}}
			/>
		</div>
	{/if}
	<div class="field">
		<label for="wf-sends">Sends on channels</label>
		<input
			id="wf-sends"
			class="input w-full input-sm"
			placeholder="Only listens"
			value={channelWords(device.sends)}
			onchange={(event) => {
				const sends = readChannels(event.currentTarget.value);
				void wire({ sends }, sends.length > 0 ? `sends on ${channelWords(sends)}` : 'only listens');
			}}
		/>
	</div>
	<div class="field">
		<label for="wf-clock">Clock</label>
		<select
			id="wf-clock"
			class="select w-full select-sm"
			value={`${device.clock.mode}${device.clock.sends ? '+' : ''}`}
			onchange={(event) => {
				const { value } = event.currentTarget;
				void wire(
					{
						clock: { mode: value.replace('+', '') as RigDevice['clock']['mode'], sends: value.endsWith('+') }
					},
					event.currentTarget.selectedOptions[0].text.toLowerCase()
				);
			}}
		>
			<option value="none">Has none</option>
			<option value="internal">Keeps its own time</option>
			<option value="internal+">Own time, and sends it</option>
			<option value="external">Follows from outside</option>
			<option value="external+">Follows, and passes it on</option>
			<option value="auto">Finds out by itself</option>
		</select>
	</div>
	<div class="field">
		<label for="wf-id">Device ID on its panel</label>
		<input
			id="wf-id"
			type="number"
			min={device.panelAdd}
			max={126 + device.panelAdd}
			class="input w-full input-sm"
			value={setting?.deviceId == null ? '' : panelId(device, setting.deviceId)}
			onchange={(event) => {
				const value = numberIn(event);
				const deviceId =
					value === null ? null : Math.min(126, Math.max(0, Math.round(value) - device.panelAdd));
				void set(
					{ deviceId },
					deviceId === null ? 'no device ID' : `device ID ${panelId(device, deviceId)} on its panel`
				);
			}}
		/>
		{#if device.panelAdd > 0 && setting?.deviceId != null}<span class="small-print"
				>{setting.deviceId} on the wire</span
			>{/if}
	</div>
	{#if voice && heard}
		<div class="field">
			<label for="wf-lock">Locked to port</label>
			<select
				id="wf-lock"
				class="select w-full select-sm"
				value={device.lock.out ?? ''}
				onchange={(event) => {
					const out = event.currentTarget.value;
					const { out: _, ...rest } = device.lock;
					void wire({ lock: out ? { ...rest, out } : rest }, out ? 'port locked' : 'port unlocked');
				}}
			>
				<option value="">No</option>
				{#each outs as placed (placed.port.id)}<option value={placed.port.id}>{portName(placed)}</option
					>{/each}
			</select>
		</div>
	{/if}
	{#if voice && rig.hosts.length > 1}
		<div class="field">
			<label for="wf-host">Played by</label>
			<select
				id="wf-host"
				class="select w-full select-sm"
				value={device.wants.host ?? ''}
				onchange={(event) => {
					const host = event.currentTarget.value || undefined;
					void wire(
						{ wants: { ...device.wants, host } },
						host
							? `played by ${event.currentTarget.selectedOptions[0].text}`
							: 'played by whichever host does today'
					);
				}}
			>
				<option value="">{played ? `${played.name}, as today` : 'Not noted'}</option>
				{#each rig.hosts as { id, name } (id)}<option value={id}>{name}</option>{/each}
			</select>
		</div>
	{/if}
	<div class="flex flex-wrap gap-x-5 gap-y-2 sm:col-span-2 xl:col-span-4">
		{#if voice && heard}
			{@render toggle('Channel locked', device.lock.channel !== undefined, (on) => {
				const { channel: _, ...rest } = device.lock;
				const channel = setting?.channel;
				return wire(
					{ lock: on && channel ? { ...rest, channel } : rest },
					on ? `locked to channel ${channel}` : 'channel unlocked'
				);
			})}
			{@render toggle('Answers to every channel (omni)', device.receive.omni, (omni) =>
				wire({ receive: { ...device.receive, omni } }, omni ? 'omni' : 'omni off')
			)}
			{@render toggle('Parts follow one another', device.receive.adjacent, (adjacent) =>
				wire({ receive: { ...device.receive, adjacent } }, adjacent ? 'parts adjacent' : 'parts anywhere')
			)}
			{@render toggle('Tight timing', device.wants.tight, (tight) =>
				wire({ wants: { ...device.wants, tight } }, tight ? 'tight timing' : 'timing as it comes')
			)}
		{/if}
		{@render toggle('Needs a return', device.wants.return, (on) =>
			wire({ wants: { ...device.wants, return: on } }, on ? 'a return is wanted' : 'no return')
		)}
		{@render toggle('To be backed up by request', device.backup, (backup) =>
			wire({ backup }, backup ? 'to be backed up' : 'not backed up')
		)}
		{@render toggle('Local control', device.local, (local) =>
			wire({ local }, local ? 'local control on' : 'local control off')
		)}
		{@render toggle('Soft thru', device.softThru, (softThru) =>
			wire({ softThru }, softThru ? 'soft thru on' : 'soft thru off')
		)}
	</div>
</div>
<p class="small-print mt-2">
	{#if feed}Hangs on {portName(feed.out)}.{:else if heard}Hangs on no port.{/if}
	Put a change into the device’s own panel too: the app only notes it.
</p>
