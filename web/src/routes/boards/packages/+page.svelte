<script lang="ts">
	import { PACKAGE_FIELDS, type PackageField } from '@keen-relay/core/parts';
	import { act } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { theirs, titled } from '$lib/ui/theirs.svelte.ts';

	let { data } = $props();
	let name = $state<string | null>(null);
	let find = $state('');
	let field = $state<PackageField>('heightMm');
	let value = $state('');
	let source = $state('');
	const shown = $derived(data.packages.filter((p) => p.name.toLowerCase().includes(find.trim().toLowerCase())));
	const chosen = $derived(data.packages.find((p) => p.name === name) ?? shown[0] ?? null);
	const known = (v: number | null, unit: string) => (v === null ? 'unknown' : theirs().inField(Number(v.toPrecision(4)), unit));

	/** What was entered when somebody began to type: what another enters meanwhile is not overwritten. */
	let startedFrom = $state<number | null>(null);
	function begin() {
		const fact = chosen?.facts.find((f) => f.field === field);
		startedFrom = fact?.entered ? fact.value : null;
	}
	async function keep(event: SubmitEvent) {
		event.preventDefault();
		const number = value.trim() === '' ? null : Number(value.replace(',', '.'));
		if (await act('PUT', '/api/v1/packages', { name: chosen!.name, field, value: number, source, startedFrom }, 'Kept')) {
			[value, source] = ['', ''];
		}
	}
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_minmax(0,560px)] gap-6 px-5 pt-4">
	<section class="flex min-h-0 flex-col">
		<div class="flex items-center justify-between">
			<h1 class="text-[28px] font-bold">Packages</h1>
			<input
				class="input h-12 w-72 border-line bg-sheet"
				bind:value={find}
				placeholder="part of a name"
				aria-label="Part of a package name"
			/>
		</div>
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="mt-3 min-h-0 flex-1 overflow-y-auto" role="group" aria-label="Packages of the boards" tabindex="0">
			<table class="rows">
				<thead
					><tr
						><th>Package</th><th class="n">Parts</th><th class="n">{titled('Body, mm')}</th><th class="n">{titled('Mass, g')}</th><th
							class="n">Unknown</th
						></tr
					></thead
				>
				<tbody>
					{#each shown as p (p.name)}
						{@const of = (f: PackageField) => p.facts.find((fact) => fact.field === f)?.value ?? null}
						<tr class={chosen?.name === p.name ? 'font-semibold' : ''}>
							<td><button class="text-left underline" onclick={() => (name = p.name)}>{p.name}</button></td>
							<td class="n">{p.parts}</td>
							<td class="n">{known(of('lengthMm'), 'mm')} × {known(of('widthMm'), 'mm')} × {known(of('heightMm'), 'mm')}</td>
							<td class="n">{known(of('massG'), 'g')}</td>
							<td class="n">{p.facts.filter((fact) => fact.value === null).length}</td>
						</tr>
					{:else}<tr><td colspan="5" class="text-soft">No package of that name on any board.</td></tr>{/each}
				</tbody>
			</table>
		</div>
	</section>
	{#if chosen}
		<aside class="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-line pb-3 pl-5">
			<h2 class="text-xl font-semibold">{chosen.name}</h2>
			<table class="rows text-sm" data-testid="package">
				<thead><tr><th>What</th><th class="n">Value</th><th>Unit</th><th>Source</th></tr></thead>
				<tbody>
					{#each chosen.facts as fact (fact.field)}
						<tr>
							<td>{PACKAGE_FIELDS[fact.field].words}</td>
							<td class="n {fact.value === null ? 'text-soft' : 'font-semibold'}">{known(fact.value, PACKAGE_FIELDS[fact.field].unit)}</td>
							<td>{PACKAGE_FIELDS[fact.field].unit}</td>
							<td class={fact.entered ? '' : 'text-soft'}>{fact.source}</td>
						</tr>
					{/each}
				</tbody>
			</table>
			<form class="grid grid-cols-[1fr_110px] gap-2 text-sm" onsubmit={keep}>
				<label
					><span class="text-soft">What</span><select class="select h-11 w-full border-line bg-sheet" bind:value={field} aria-label="What">
						{#each Object.entries(PACKAGE_FIELDS) as [key, { words, unit }] (key)}<option value={key}
								>{words}{unit ? `, ${unit}` : ''}</option
							>{/each}
					</select></label
				>
				<label
					><span class="text-soft">Value</span><input
						class="figure input h-11 w-full border-line bg-sheet"
						bind:value
						inputmode="decimal"
						onfocus={begin}
						aria-label="Value"
					/></label
				>
				<label class="col-span-2"
					><span class="text-soft">Source, for example the maker’s data sheet</span><input
						class="input h-11 w-full border-line bg-sheet"
						bind:value={source}
						required
						aria-label="Source"
					/></label
				>
				<button class="btn col-span-2 h-12 btn-primary" disabled={!can('package.set')}>Keep it</button>
			</form>
			<p class="text-sm text-soft">
				What is entered outranks what the name says, for placing, mass and heat from the next plan on. Earlier values stay in the log.
			</p>
		</aside>
	{/if}
</div>
