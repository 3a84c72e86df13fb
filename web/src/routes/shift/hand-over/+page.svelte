<script lang="ts">
	import { bodies } from '$lib/api/bodies.ts';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { judgeHandOver } from '@keen-relay/core/schedule';
	import { can } from '$lib/ui/can.ts';
	import { clockTime, dayTime } from '$lib/ui/format.ts';
	import FactBlocks from '$lib/ui/FactBlocks.svelte';
	import VerdictHead from '$lib/ui/VerdictHead.svelte';
	import { theirs } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const key = $derived({ lineId: data.lineId, date: data.shift.date, shift: data.shift.name });
	const signed = $derived(data.handOver?.outgoingName ? (data.handOver.incomingName ? 2 : 1) : 0);
	const verdict = $derived(
		judgeHandOver(data.shift.name, data.current, data.handOver?.outgoingName ?? null, data.handOver?.incomingName ?? null)
	);

	/** The note that stands, and that this one is typed over. */
	const kept = $derived(data.handOver?.note ?? null);
	const written = entry({
		id: 'hand-over',
		schema: bodies.handOver.pick({ note: true, startedFrom: true }),
		start: () => ({ note: kept ?? '', startedFrom: kept }),
		method: 'PUT',
		path: '/api/v1/hand-overs',
		body: (typed) => ({ ...key, ...typed }),
		done: () => 'Note kept',
		follows: true,
		why: null,
		draft: {
			subject: untrack(() => `hand-over.${data.lineId}.${data.shift.date}.${data.shift.name}`),
			base: () => (data.handOver ? 'a note that was kept' : 'no note')
		}
	});
	const { form: text, errors: textErrors } = written;

	const { form, errors, enhance } = entry({
		id: 'signature',
		schema: bodies.signature.pick({ badge: true, pin: true }),
		start: () => ({ badge: '', pin: '' }),
		path: '/api/v1/hand-overs/sign',
		body: (who) => ({ ...key, ...who }),
		done: () => 'Signed'
	});
</script>

<div class="beside grid h-full [--beside:400px]">
	<section class="flex min-h-0 flex-col gap-2 px-5 pt-3.5">
		<VerdictHead {verdict}
			>{theirs().date(data.shift.date)}, {clockTime(data.shift.startMs, zone)} to {clockTime(data.shift.endMs, zone)}</VerdictHead
		>
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="min-h-0 flex-1 overflow-y-auto pt-1" data-testid="hand-over" role="region" aria-label="Hand-over" tabindex="0">
			<FactBlocks blocks={data.lines} />
		</div>
	</section>
	<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line px-5 pt-3.5 pb-3">
		<EntryForm enhance={written.enhance} draft={written.draft} label="Hand-over" class="flex flex-col gap-3">
			<TextField
				label="Note to the next shift"
				rows={5}
				bind:value={$text.note}
				errors={$textErrors.note}
				disabled={signed > 0}
				class="text-base"
			/>
			{#if signed === 0}
				<button class="btn min-h-16 border-ink bg-transparent text-lg" disabled={!can('handOver.write')}>
					{data.handOver ? 'Keep the changed note' : 'Write the hand-over'}
				</button>
			{/if}
		</EntryForm>
		<a
			class="btn min-h-12 border-ink bg-transparent"
			href="/sheets/hand-over?line={data.lineId}&of={data.shift.date}+{data.shift.name}"
			target="_blank">Hand-over sheet, PDF</a
		>
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Signatures</h2>
			<dl class="facts">
				<div>
					<dt>hands over</dt>
					<dd class="text-right">{data.handOver?.outgoingName ?? '–'}</dd>
					<dd class="n">{data.handOver?.outgoingAt ? dayTime(data.handOver.outgoingAt, zone) : ''}</dd>
				</div>
				<div>
					<dt>takes over</dt>
					<dd class="text-right">{data.handOver?.incomingName ?? '–'}</dd>
					<dd class="n">{data.handOver?.incomingAt ? dayTime(data.handOver.incomingAt, zone) : ''}</dd>
				</div>
			</dl>
		</section>
		{#if data.handOver && signed < 2}
			<EntryForm {enhance} label="Signature" class="flex flex-col gap-2">
				<div class="grid grid-cols-2 gap-3">
					<TextField label="Badge" bind:value={$form.badge} errors={$errors.badge} autocomplete="off" class="h-14 text-lg" />
					<TextField label="PIN" type="password" bind:value={$form.pin} errors={$errors.pin} autocomplete="off" class="h-14 text-lg" />
				</div>
				<button class="btn min-h-16 text-lg btn-primary"
					>{signed === 0 ? 'Sign as the one who hands over' : 'Sign as the one who takes over'}</button
				>
			</EntryForm>
			<p class="text-sm text-soft">Your own badge and PIN, in place: nobody is signed out. The two must be different people.</p>
		{:else if signed === 2}
			<p class="text-sm text-soft">The sheet stands as it was signed.</p>
		{:else}
			<p class="text-sm text-soft">Write the hand-over first; then both people sign here.</p>
		{/if}
	</aside>
</div>
