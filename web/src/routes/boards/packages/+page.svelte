<script lang="ts">
	import { PACKAGE_FIELDS, type PackageField } from '@keen-relay/core/parts';
	import { theirs, unitName } from '$lib/ui/theirs.svelte.ts';
	import DataTable from '$lib/ui/DataTable.svelte';
	import PackageFact from './PackageFact.svelte';

	let { data } = $props();
	let name = $state<string | null>(null);
	type Package = (typeof data.packages)[number];
	const chosen = $derived(data.packages.find((p) => p.name === name) ?? data.packages[0] ?? null);
	const factOf = (p: Package, field: PackageField) => p.facts.find((fact) => fact.field === field)?.value ?? null;
	const known = (v: number | null, unit: string) =>
		v === null ? 'unknown' : `${theirs().inField(Number(v.toPrecision(4)), unit)} ${unitName(unit)}`;
</script>

<div class="beside grid h-full gap-6 px-5 pt-4 [--beside:560px]">
	<section class="flex min-h-0 flex-col">
		<div class="flex items-center justify-between">
			<h1 class="text-[28px] font-bold">Packages</h1>
		</div>
		<div class="mt-3 min-h-0 flex-1">
			{#snippet named(p: Package)}<button class="text-left underline" onclick={() => (name = p.name)}>{p.name}</button>{/snippet}
			<DataTable
				name="packages"
				label="Packages"
				rows={data.packages}
				key={(p) => p.name}
				picked={(p) => chosen?.name === p.name}
				columns={[
					{ id: 'package', title: 'Package', value: (p) => p.name, cell: named },
					{ id: 'parts', title: 'Parts', value: (p) => p.parts, figures: true },
					{ id: 'length', title: 'Length, mm', value: (p) => factOf(p, 'lengthMm'), decimals: 2 },
					{ id: 'width', title: 'Width, mm', value: (p) => factOf(p, 'widthMm'), decimals: 2 },
					{ id: 'height', title: 'Height, mm', value: (p) => factOf(p, 'heightMm'), decimals: 2 },
					{ id: 'mass', title: 'Mass, g', value: (p) => factOf(p, 'massG'), decimals: 4 },
					{ id: 'unknown', title: 'Unknown', value: (p) => p.facts.filter((fact) => fact.value === null).length, figures: true }
				]}
				empty="No package of that name on any board."
			/>
		</div>
	</section>
	{#if chosen}
		<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line pb-3 pl-5">
			<h2 class="text-xl font-semibold">{chosen.name}</h2>
			{#snippet what(fact: Package['facts'][number])}{PACKAGE_FIELDS[fact.field].words}
				<span class="block text-sm {fact.entered ? '' : 'text-soft'}">{fact.source}</span>{/snippet}
			<DataTable
				whole
				small
				name="package-facts"
				label="What is known of it"
				testid="package"
				rows={chosen.facts}
				key={(fact) => fact.field}
				columns={[
					{ id: 'what', title: 'What, and who says so', value: (f) => PACKAGE_FIELDS[f.field].words, cell: what },
					{
						id: 'value',
						title: 'Value',
						value: (f) => f.value,
						words: (f) => known(f.value, PACKAGE_FIELDS[f.field].unit),
						figures: true,
						class: 'font-semibold whitespace-nowrap'
					},
					{ id: 'source', title: 'Source', value: (f) => f.source, away: true }
				]}
				empty="Nothing is known of it."
			/>
			{#key chosen.name}<PackageFact of={chosen} />{/key}
			<p class="text-sm text-soft">
				What is entered outranks what the name says, for placing, mass and heat from the next plan on. Earlier values stay in the log.
			</p>
		</aside>
	{/if}
</div>
