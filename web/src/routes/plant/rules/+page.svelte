<script lang="ts">
	import { page } from '$app/state';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';
	import { same } from '$lib/ui/same.ts';
	import SchemaForm from '$lib/ui/SchemaForm.svelte';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const name = $derived(page.url.searchParams.get('rule') ?? data.rules[0]!.name);
	const rule = $derived(data.rules.find((r) => r.name === name) ?? data.rules[0]!);
	const copied = (values: unknown) => structuredClone($state.snapshot(values)) as Record<string, unknown>;
	let value = $derived(copied(rule.value));
	const changed = $derived(!same($state.snapshot(value), $state.snapshot(rule.value)));

	function keep(event: SubmitEvent) {
		event.preventDefault();
		const body = { value: $state.snapshot(value), startedFrom: rule.set?.revision ?? null };
		void act('PUT', `/api/v1/rules/${rule.name}`, body, `${rule.title}: kept`);
	}
</script>

<div class="grid h-full grid-cols-[280px_minmax(0,1fr)] gap-8 pt-3">
	<nav class="overflow-y-auto" aria-label="Rules">
		<h1 class="text-[26px] leading-8 font-bold">Rules</h1>
		<p class="text-soft">What this plant decides for itself.</p>
		<ul class="mt-2">
			{#each data.rules as r (r.name)}
				<li class="border-b border-hair py-2 {r.name === rule.name ? 'border-l-4 border-l-copper pl-2' : ''}">
					<a class="block min-h-8 underline" href="?rule={r.name}" aria-current={r.name === rule.name ? 'page' : undefined}>{r.title}</a>
					<span class="text-sm text-soft">{r.set ? `revision ${r.set.revision}, ${r.set.by}` : 'as it starts'}</span>
				</li>
			{/each}
			{#if page.data.line}
				<li class="border-b border-hair py-2">
					<a class="block min-h-8 underline" href="/line/{page.data.line.id}/paste-check/limits">Classes of pads and their limits</a><span
						class="text-sm text-soft">on Paste check</span
					>
				</li>
				<li class="border-b border-hair py-2">
					<a class="block min-h-8 underline" href="/line/{page.data.line.id}/paste-check/causes/thresholds">From where causes are named</a
					><span class="text-sm text-soft">on Paste check</span>
				</li>
			{/if}
			<li class="border-b border-hair py-2">
				<a class="block min-h-8 underline" href="/plant/people">Who may do what</a><span class="text-sm text-soft">on People</span>
			</li>
		</ul>
	</nav>
	{#key rule.name}
		<form class="flex min-h-0 max-w-[760px] flex-col gap-3 overflow-y-auto pr-2 pb-4" onsubmit={keep} aria-label={rule.title}>
			<div class="flex items-start gap-4">
				<div class="flex-1">
					<h2 class="text-xl font-semibold">{rule.title}</h2>
					<p>{rule.about}</p>
					<p class="text-sm text-soft">Where the start values come from: {rule.source}</p>
					{#if rule.set}<p class="text-sm text-soft">
							Revision {rule.set.revision}, {rule.set.by}, {dayTime(rule.set.at, zone)}.
						</p>{/if}
				</div>
				<span class="grid gap-2">
					<button class="btn min-h-12 btn-primary" disabled={!can('rules.set') || !changed}>Keep these</button>
					<button type="button" class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => (value = copied(rule.start))}
						>As it starts</button
					>
				</span>
			</div>
			{#if !can('rules.set')}<p class="text-sm text-soft">A lead sets the rules.</p>{/if}
			<SchemaForm schema={rule.form} bind:value />
		</form>
	{/key}
</div>
