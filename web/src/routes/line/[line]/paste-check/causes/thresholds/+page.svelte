<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { page } from '$app/state';
	import { checkThresholds, type SignatureThresholds } from '@keen-relay/core/inspection';
	import { InputError, type Verdict } from '@keen-relay/core/judgement';
	import { THRESHOLD_GROUPS } from '$lib/model/thresholds.ts';
	import { bodies } from '$lib/api/bodies.ts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { dayTime } from '$lib/ui/format.ts';
	import { same } from '$lib/ui/same.ts';
	import StationFrame from '$lib/ui/StationFrame.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import { quantity, say } from '$lib/ui/theirs.svelte.ts';
	import NumberField from '$lib/ui/NumberField.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const { form, enhance, draft, errors } = entry({
		id: 'thresholds',
		schema: bodies.signatureThresholds,
		start: () => ({ thresholds: { ...data.thresholds }, note: '', startedFrom: data.revision }),
		follows: true,
		method: 'PUT',
		path: '/api/v1/signature-thresholds',
		done: () => 'Thresholds kept',
		draft: { subject: 'cause-thresholds', base: () => (data.revision ? `revision ${data.revision}` : 'the starting values') }
	});
	const problem = $derived.by(() => {
		try {
			checkThresholds({ ...$form.thresholds } as SignatureThresholds);
			return '';
		} catch (error) {
			if (error instanceof InputError) return error.message;
			throw error;
		}
	});
	const changed = $derived(!same($form.thresholds, data.thresholds));
	const away = $derived(THRESHOLD_GROUPS.flatMap((g) => g.rows).filter((r) => $form.thresholds[r.name] !== data.start[r.name]).length);
	const verdict = $derived<Verdict>({
		level: problem ? 'act' : changed ? 'watch' : 'good',
		statement:
			problem ||
			(changed
				? 'Not kept yet.'
				: data.revision
					? `Revision ${data.revision} names the causes: ${away} of its thresholds differ from the model’s.`
					: 'Starting values: tune them on your own runs.'),
		because: [],
		doNext: []
	});
</script>

<StationFrame {verdict}>
	{#snippet about()}Sizes in % are 100·ln of a ratio: near 0 a percent, and as much up as down. Each case keeps the revision that named it.{/snippet}
	{#snippet picture()}
		<EntryForm
			{enhance}
			{draft}
			id="thresholds"
			label="Thresholds of the causes"
			class="grid h-full grid-cols-2 content-start items-start gap-x-8 overflow-y-auto"
		>
			{#each THRESHOLD_GROUPS as g (g.group)}
				<section class="mb-3">
					<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">{g.group}</h2>
					<table class="rows text-sm">
						<tbody>
							{#each g.rows as r (r.name)}
								<tr>
									<td>{say(r.words)}</td>
									<td class="n"
										><NumberField
											bare
											label={say(r.words)}
											class="h-11 w-24 px-1! text-right"
											step="any"
											bind:value={$form.thresholds[r.name]!}
											min={-Infinity}
										/></td
									>
									<td class="w-14 text-soft">{r.unit}</td>
									<td class="w-16 text-soft">{$form.thresholds[r.name] === data.start[r.name] ? '' : `was ${data.start[r.name]}`}</td>
								</tr>
							{/each}
						</tbody>
					</table>
				</section>
			{/each}
		</EntryForm>
	{/snippet}
	{#snippet side()}
		<TextField label="Why, for the record" form="thresholds" bind:value={$form.note} errors={$errors.note} />
		<button class="btn min-h-16 text-lg btn-primary" disabled={!changed || problem !== '' || !can('signature.tune')} form="thresholds"
			>{changed ? 'Keep these thresholds' : 'These thresholds are kept'}</button
		>
		<section data-testid="golden">
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">What the level is held against</h2>
			<p class="py-1 text-sm">
				{#if data.golden}
					An approved baseline of this side at {quantity(data.golden.foilUm, 0, 'µm')}: {data.golden.panels} panels, {data.golden.by}, {dayTime(
						data.golden.at,
						zone
					)}.
				{:else}The plant’s transfer curve. A run that printed well can be approved as the baseline of its side instead: it then knows every
					pad, and not only its area ratio.{/if}
			</p>
			{#if data.run}
				<button
					class="btn min-h-16 w-full border-ink bg-transparent text-lg"
					disabled={!can('signature.tune')}
					onclick={() => act('POST', `/api/v1/runs/${data.run!.id}/baseline`, {}, 'Baseline approved')}
					>Approve {data.run.number} as baseline</button
				>
				{#if data.golden}<button
						class="btn mt-2 min-h-12 w-full border-line bg-transparent"
						disabled={!can('signature.tune')}
						onclick={() => act('DELETE', `/api/v1/sides/${data.run!.sideId}/baseline`, undefined, 'Back to the transfer curve')}
						>Back to the transfer curve</button
					>{/if}
			{/if}
		</section>
		<section>
			<h2 class="border-b border-hair pb-1 text-sm font-semibold text-soft">Revisions</h2>
			<DataTable
				small
				whole
				name="threshold-revisions"
				label="Revisions"
				rows={data.revisions}
				key={(r) => r.revision}
				columns={[
					{ id: 'revision', title: 'No.', value: (r) => r.revision, figures: true },
					{ id: 'at', title: 'Since', value: (r) => new Date(r.createdAt).getTime(), time: true },
					{ id: 'by', title: 'By', value: (r) => r.by ?? '' },
					{ id: 'why', title: 'Why', value: (r) => r.note }
				]}
				empty="None yet: the model’s values."
			/>
		</section>
	{/snippet}
</StationFrame>
