<script lang="ts">
	import { page } from '$app/state';

	const base = $derived(`/line/${page.params.line}/print`);
	const tabs = $derived([
		{ href: base, name: 'Printing' },
		{ href: `${base}/stencil`, name: 'Stencil' }
	]);
</script>

<div class="flex gap-6 border-b border-hair" role="navigation" aria-label="Print">
	{#each tabs as tab (tab.href)}
		{@const chosen = page.url.pathname === tab.href}
		<a
			href="{tab.href}{page.url.search}"
			class="border-b-[3px] px-1 py-2 {chosen ? 'border-copper font-semibold' : 'border-transparent'}"
			aria-current={chosen ? 'page' : undefined}>{tab.name}</a
		>
	{/each}
</div>
