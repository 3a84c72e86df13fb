<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import LevelMark from '$lib/ui/LevelMark.svelte';
	import DataTable from '$lib/ui/DataTable.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	type Token = (typeof data.tokens)[number];
	type Source = (typeof data.counts)[number];
	let open = $state<number | null>(null);
	let shown = $state<{ name: string; token: string } | null>(null);
	const correction = entry({
		id: 'quarantine',
		schema: bodies.readmit,
		start: () => ({ text: '' }),
		path: () => `/api/v1/quarantine/${open}`,
		done: () => 'Admitted',
		then: () => (open = null)
	});
	const { form: corrected, errors: correctedErrors } = correction;
	function correct({ id, raw }: (typeof data.quarantine)[number]) {
		correction.reset({ data: { text: raw } });
		open = id;
	}
	const token = entry<typeof bodies.token, { token: string }>({
		id: 'token',
		schema: bodies.token,
		start: () => ({ name: '' }),
		path: '/api/v1/tokens',
		done: ({ name }) => `Token of ${name} made`,
		then: ({ token }, { name }) => (shown = { name, token })
	});
	const { form: made, errors: madeErrors } = token;
	const total = (name: 'received' | 'accepted' | 'duplicates' | 'quarantined') => data.counts.reduce((sum, row) => sum + row[name], 0);
</script>

<div class="beside grid h-full gap-6 pt-3 [--beside:500px]">
	<section class="flex min-h-0 flex-col">
		<h1 class="flex items-center gap-3 text-[26px] leading-8 font-bold">
			<LevelMark level={data.waiting ? 'watch' : 'good'} size={24} />
			{data.waiting === 1
				? '1 message is kept aside.'
				: data.waiting
					? `${data.waiting} messages are kept aside.`
					: 'Every message was taken.'}
		</h1>
		<p class="text-soft">Received = accepted + duplicates + in quarantine, for every source. Nothing that a machine says is thrown away.</p>
		<div class="mt-2 min-h-0 flex-1">
			{#snippet source(row: Source)}<span title={row.source}
					>{row.source.trim() || '(no name)'}{#if row.said && row.is}<span class="text-soft">&nbsp;is {row.is}</span
						>{:else if row.is === null && !row.sensor && row.source !== '(unreadable)'}
						<select
							class="select ml-2 h-9 w-44 border-ink bg-sheet text-sm"
							disabled={!can('station.set')}
							aria-label="Which station is {row.source}"
							onchange={(e) =>
								act(
									'PUT',
									'/api/v1/sources',
									{ source: row.source, stationId: Number(e.currentTarget.value) },
									`${row.source} is matched; what waited for it was taken`
								)}
						>
							<option value="">which station is it?</option>
							{#each data.stations as s (s.id)}<option value={s.id}>{s.source}</option>{/each}
						</select>{/if}</span
				>{/snippet}
			{#snippet quarantined(row: Source)}{#if row.quarantined}<a
						class="underline decoration-dotted underline-offset-4"
						href="?source={encodeURIComponent(row.source)}">{row.quarantined}</a
					>{:else}0{/if}{/snippet}
			<DataTable
				name="sources"
				label="Sources"
				testid="sources"
				rows={data.counts}
				key={(row) => row.source}
				columns={[
					{ id: 'source', title: 'Source', value: (row) => row.source, cell: source, class: 'max-w-80 truncate max-[1179px]:max-w-52' },
					{ id: 'received', title: 'Received', value: (row) => row.received, figures: true },
					{ id: 'accepted', title: 'Accepted', value: (row) => row.accepted, figures: true },
					{ id: 'duplicates', title: 'Duplicates', value: (row) => row.duplicates, figures: true },
					{ id: 'quarantine', title: 'Quarantine', value: (row) => row.quarantined, cell: quarantined, figures: true },
					{ id: 'last', title: 'Last message', value: (row) => row.lastAt.getTime(), time: true }
				]}
				empty="No machine has sent anything yet. Give one a token."
			>
				{#snippet after()}{#if data.counts.length > 1}<p class="py-2 font-semibold">
							All: {total('received')} received, {total('accepted')} accepted, {total('duplicates')} duplicates, {total('quarantined')} in quarantine.
						</p>{/if}{/snippet}
			</DataTable>
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line pb-3 pl-5">
		<section>
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">In quarantine</h2>
			{#if data.only !== null}
				<p class="pt-1 text-sm text-soft">Only of {data.only}. <a class="underline" href="?">Of every source</a></p>
			{:else if data.waiting > data.quarantine.length}
				<p class="pt-1 text-sm text-soft">
					{data.waiting} wait; the newest of each source are listed. A source’s own count opens all of its own.
				</p>
			{/if}
			<ul class="max-h-[260px] overflow-y-auto wrap-anywhere" data-testid="quarantine">
				{#each data.quarantine as row (row.id)}
					<li class="border-b border-hair py-2 text-sm">
						<p class="font-semibold">{row.reason}</p>
						<p class="text-soft">
							{row.source}, {dayTime(row.receivedAt, zone)}, line {row.line} of its batch{row.conflict ? ', conflict' : ''}
						</p>
						{#if open === row.id}
							<EntryForm enhance={correction.enhance} label="Correct the message" class="mt-1 flex flex-col gap-2">
								<TextField
									label="The message, corrected"
									bind:value={$corrected.text}
									errors={$correctedErrors.text}
									figure
									rows={5}
									class="text-xs"
								/>
								<div class="flex gap-2">
									<button class="btn h-10 flex-1 btn-primary" disabled={!can('message.settle')}>Admit it</button>
									<button class="btn h-10 border-line bg-transparent font-normal" type="button" onclick={() => (open = null)}>Close</button>
								</div>
							</EntryForm>
						{:else}
							<div class="mt-1 flex gap-2">
								<button class="btn h-9 border-line bg-transparent font-normal" onclick={() => correct(row)}>Correct</button>
								<button
									class="btn h-9 border-line bg-transparent font-normal"
									disabled={!can('message.settle')}
									onclick={() => act('DELETE', `/api/v1/quarantine/${row.id}`, undefined, 'Left out; it stays stored')}>Leave out</button
								>
							</div>
						{/if}
					</li>
				{:else}<li class="py-2 text-soft">Nothing is kept aside.</li>{/each}
			</ul>
		</section>
		<section>
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">Machine tokens</h2>
			{#snippet revoke(t: Token)}{#if t.revokedAt}revoked{:else}<button
						class="btn h-9 border-line bg-transparent font-normal"
						disabled={!can('token.revoke')}
						onclick={() => act('DELETE', `/api/v1/tokens/${t.id}`, undefined, `${t.name} revoked`)}>Revoke</button
					>{/if}{/snippet}
			<div class="flex max-h-60 flex-col">
				<DataTable
					small
					name="tokens"
					label="Machine tokens"
					testid="tokens"
					rows={data.tokens}
					key={(t) => t.id}
					rowClass={(t) => (t.revokedAt ? 'text-soft' : '')}
					columns={[
						{ id: 'token', title: 'Token', value: (t) => t.name },
						{ id: 'by', title: 'Made by', value: (t) => t.by ?? 'came with the start' },
						{
							id: 'used',
							title: 'Used',
							value: (t) => (t.usedAt === null ? null : new Date(t.usedAt).getTime()),
							words: (t) => (t.usedAt ? dayTime(t.usedAt, zone) : 'never')
						},
						{ id: 'revoke', title: '', value: () => null, cell: revoke, class: 'text-right' }
					]}
					empty="No token yet."
				/>
			</div>
			{#if shown}
				<div class="my-2 border border-copper p-3 text-sm" role="status" data-testid="new-token">
					<p>Token of {shown.name}. It is shown this once; only a hash of it is kept.</p>
					<p class="figure mt-1 break-all">{shown.token}</p>
					<button class="btn mt-2 h-10 border-ink bg-transparent" onclick={() => (shown = null)}>I have it</button>
				</div>
			{/if}
			<EntryForm enhance={token.enhance} label="New token" class="mt-2 grid grid-cols-[1fr_auto] items-end gap-2">
				<TextField label="Which machine or program" bind:value={$made.name} errors={$madeErrors.name} />
				<button class="btn h-12 btn-primary" disabled={!can('token.create')}>Make a token</button>
			</EntryForm>
			<p class="mt-1 text-sm"><a class="underline" href="/plant/machines/first">The first message that it sends, and the reply to it</a></p>
		</section>
	</aside>
</div>
