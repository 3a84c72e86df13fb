<script lang="ts">
	import { page } from '$app/state';

	let { children } = $props();
	const TABS = [
		{ href: '/plant', name: 'Messages and machines' },
		{ href: '/plant/people', name: 'People and rights' },
		{ href: '/plant/clock', name: 'Clock and stream' },
		{ href: '/plant/api', name: 'API' }
	];
</script>

<section class="flex h-full flex-col px-5 pt-3">
	<div class="flex gap-6 border-b border-hair" role="navigation" aria-label="Plant">
		{#each TABS as tab (tab.href)}
			{@const chosen = page.url.pathname === tab.href}
			<a
				href={tab.href}
				class="border-b-[3px] px-1 py-2 {chosen ? 'border-copper font-semibold' : 'border-transparent'}"
				aria-current={chosen ? 'page' : undefined}>{tab.name}</a
			>
		{/each}
	</div>
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
