<script lang="ts">
	import { page } from '$app/state';
	import RuleForm from './RuleForm.svelte';

	let { data } = $props();
	const name = $derived(page.url.searchParams.get('rule') ?? data.rules[0]!.name);
	const rule = $derived(data.rules.find((r) => r.name === name) ?? data.rules[0]!);
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
		<RuleForm {rule} />
	{/key}
</div>
