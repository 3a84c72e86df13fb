<script lang="ts">
	import Tabs from './Tabs.svelte';

	const TABS = [
		{ path: '', name: 'Printing' },
		{ path: '/set-up', name: 'Set-up' },
		{ path: '/alignment', name: 'Alignment' },
		{ path: '/trial', name: 'Trial' },
		{ path: '/stencil', name: 'Stencil' },
		{ path: '/openings', name: 'Openings' },
		{ path: '/library', name: 'Library' }
	];
</script>

<Tabs station="print" tabs={TABS} label="Print" />
