<script lang="ts">
	import Tabs from './Tabs.svelte';

	const TABS = [
		{ path: '', name: 'Panels' },
		{ path: '/causes', name: 'Causes' },
		{ path: '/classes', name: 'Classes and wipe' },
		{ path: '/limits', name: 'Limits' },
		{ path: '/import', name: 'Results from a file' }
	];
</script>

<Tabs station="paste-check" tabs={TABS} label="Paste check" />
