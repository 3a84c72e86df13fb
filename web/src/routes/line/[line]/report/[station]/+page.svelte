<script lang="ts">
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { plantInstant } from '$lib/ui/format.ts';
	import SchemaForm from '$lib/ui/SchemaForm.svelte';

	let { data } = $props();
	let type = $state(untrack(() => data.forms[0]?.type ?? ''));
	let source = $state(untrack(() => data.sources[0] ?? ''));
	let when = $state('');
	const form = $derived(data.forms.find((f) => f.type === type) ?? null);
	const blank = () =>
		(form?.form.properties?.runId && page.data.line?.run ? { runId: page.data.line.run.id } : {}) as Record<string, unknown>;
	let fields = $state(untrack(blank));
	/** The same form sent twice counts once. */
	let formId = $state(crypto.randomUUID());

	async function send(event: SubmitEvent) {
		event.preventDefault();
		const done = await act(
			'POST',
			'/api/v1/reports',
			{
				stationId: data.stationId,
				...(data.stationId === null ? { source } : {}),
				type,
				formId,
				fields,
				...(when ? { at: plantInstant(when, page.data.plant?.timeZone ?? 'UTC') } : {})
			},
			`${data.name}: ${form!.words} taken`
		);
		if (!done) return;
		fields = blank();
		formId = crypto.randomUUID();
	}
</script>

<section class="h-full overflow-y-auto px-5 pt-3.5 pb-6">
	<h1 class="text-[28px] leading-[34px] font-bold">Report in {data.name}’s stead</h1>
	<p class="text-soft">
		For a machine that is silent or stands by itself. It goes through the same gate as a machine’s own message, and says who typed it.
	</p>
	<form class="mt-4 grid max-w-3xl gap-4" onsubmit={send} aria-label="Report">
		<div class="grid grid-cols-2 gap-3">
			<label class="text-sm"
				><span class="text-soft">What</span><select
					class="select h-12 w-full border-line bg-sheet"
					bind:value={type}
					onchange={() => (fields = blank())}
					aria-label="What is reported"
					>{#each data.forms as f (f.type)}<option value={f.type}>{f.words}</option>{/each}</select
				></label
			>
			{#if data.stationId === null}
				<label class="text-sm"
					><span class="text-soft">Which</span><select class="select h-12 w-full border-line bg-sheet" bind:value={source} required
						>{#each data.sources as s (s)}<option value={s}>{s}</option>{/each}</select
					></label
				>
			{/if}
			<label class="text-sm"
				><span class="text-soft">When, if not now</span><input
					class="input h-12 w-full border-line bg-sheet"
					type="datetime-local"
					step="1"
					bind:value={when}
				/></label
			>
		</div>
		{#if form}{#key type}<SchemaForm schema={form.form} bind:value={fields} />{/key}{/if}
		<button class="btn min-h-16 text-lg btn-primary" disabled={!can('message.type')}>Report it</button>
	</form>
</section>
