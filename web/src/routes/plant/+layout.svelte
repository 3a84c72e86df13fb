<script lang="ts">
	import Tabs from '$lib/ui/Tabs.svelte';

	let { children } = $props();
	const TABS = [
		{ path: '', name: 'Lines' },
		{
			path: '/set-up',
			name: 'Set-up',
			views: [
				{ path: '', name: 'To the first panel' },
				{ path: '/plant', name: 'Plant' },
				{ path: '/lines', name: 'Lines and machines' },
				{ path: '/copy', name: 'Copy' }
			]
		},
		{ path: '/people', name: 'People' },
		{
			path: '/machines',
			name: 'Machines',
			views: [
				{ path: '', name: 'Messages and tokens' },
				{ path: '/first', name: 'First message' },
				{ path: '/scanner', name: 'Scanner test' },
				{ path: '/clock', name: 'Clock and stream' },
				{ path: '/api', name: 'API' }
			]
		},
		{ path: '/rules', name: 'Rules' },
		{
			path: '/log',
			name: 'Log',
			views: [
				{ path: '', name: 'Records' },
				{ path: '/said', name: 'Said on this screen' }
			]
		}
	];
</script>

<section class="flex h-full flex-col px-5 pt-1">
	<Tabs base="/plant" tabs={TABS} label="Plant" />
	<div class="min-h-0 flex-1">{@render children()}</div>
</section>
