<script lang="ts" generics="Row extends RowData">
	import { page } from '$app/state';
	import {
		columnVisibilityFeature,
		createFilteredRowModel,
		createSortedRowModel,
		createTable,
		columnFilteringFeature,
		globalFilteringFeature,
		rowSortingFeature,
		tableFeatures,
		type RowData,
		type SortingState
	} from '@tanstack/svelte-table';
	import { createVirtualizer } from '@tanstack/svelte-virtual';
	import ArrowDown from '@lucide/svelte/icons/arrow-down';
	import ArrowUp from '@lucide/svelte/icons/arrow-up';
	import { untrack, type Snippet } from 'svelte';
	import { get } from 'svelte/store';
	import type { TableView } from '$lib/model/types.ts';
	import { send } from './api.ts';
	import { sayNot } from './said.ts';
	import { csvOf, fileValue, inOrder, shownText, type Column } from './table.ts';
	import { theirs } from './theirs.svelte.ts';

	interface Props {
		/** By which a person's settings of it are remembered, and its files are named: small letters and dashes. */
		name: string;
		/** Read to who cannot see it. */
		label: string;
		columns: readonly Column<Row>[];
		rows: readonly Row[];
		key: (row: Row) => string | number;
		/** What is said where there is no row at all. */
		empty: string;
		/** Where the first is entered. */
		emptyLink?: { href: string; words: string };
		/** The order before anybody chose one; else the rows stand as they come. */
		sort?: SortingState;
		rowClass?: (row: Row) => string;
		/** Chosen by pointer or Enter. */
		onpick?: (row: Row) => void;
		picked?: (row: Row) => boolean;
		/** Below the last row. */
		after?: Snippet;
		testid?: string;
		rowTestid?: (row: Row) => string;
		/** Beside a drawing: what can be set stands behind one button. */
		small?: boolean;
		/** As high as its rows: what it stands in scrolls. */
		whole?: boolean;
	}
	let {
		name,
		label,
		columns,
		rows,
		key,
		empty,
		emptyLink,
		sort = [],
		rowClass,
		onpick,
		picked,
		after,
		testid,
		rowTestid,
		small = false,
		whole = false
	}: Props = $props();

	/** So many rows are drawn at once; of more, those in sight. */
	const MOST_DRAWN = 300;
	const ROW_PX = 41;
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const say = $derived(theirs());
	const remembered = untrack(() => page.data.own?.tables[name] ?? null);
	let sorting = $state.raw<SortingState>(remembered?.sort ?? untrack(() => sort));
	let hidden = $state.raw<string[]>(remembered?.hidden ?? untrack(() => columns.filter((c) => c.away).map((c) => c.id)));
	let wanted = $state('');
	let wantedIn = $state('');
	let open = $state(false);
	let choosing = $state(false);
	let scroller: HTMLDivElement | undefined = $state();

	const features = tableFeatures({
		rowSortingFeature,
		columnVisibilityFeature,
		columnFilteringFeature,
		globalFilteringFeature,
		sortedRowModel: createSortedRowModel(),
		filteredRowModel: createFilteredRowModel()
	});
	const byId = $derived(new Map(columns.map((c) => [c.id, c])));
	const table = createTable({
		features,
		get columns() {
			return columns.map((c) => ({
				id: c.id,
				accessorFn: (row: Row) => c.value(row),
				enableSorting: c.title !== '',
				enableHiding: c.title !== '',
				sortUndefined: false as const,
				// The first press shows the largest figure, the newest, the first of the alphabet.
				sortDescFirst: c.decimals !== undefined || c.figures === true || c.time === true,
				sortFn: (a: { original: Row }, b: { original: Row }) => inOrder(c.value(a.original), c.value(b.original))
			}));
		},
		get data() {
			return rows as Row[];
		},
		getRowId: (row: Row) => String(key(row)),
		globalFilterFn: (row: { original: Row }, _: string, text: string) => {
			const looked = wantedIn ? [byId.get(wantedIn)!] : columns.filter((c) => c.title && !hidden.includes(c.id));
			const words = text.toLowerCase().split(/\s+/);
			const line = looked.map((c) => shownText(c, row.original, say, zone).toLowerCase()).join('\n');
			return words.every((word) => line.includes(word));
		},
		getColumnCanGlobalFilter: () => true,
		state: {
			get sorting() {
				return sorting;
			},
			get columnVisibility() {
				return Object.fromEntries(hidden.map((id) => [id, false]));
			},
			get globalFilter() {
				return wanted.trim() === '' ? undefined : `${wanted.trim()}`;
			}
		},
		onSortingChange: (next) => {
			sorting = typeof next === 'function' ? next(sorting) : next;
			remember();
		}
	});
	const shown = $derived.by(() => {
		// Read here, so that a filter by one column, another unit or other words are seen.
		void [wantedIn, say, zone];
		return table.getRowModel().rows.map((row) => row.original);
	});
	const visible = $derived(columns.filter((c) => !hidden.includes(c.id)));

	const long = $derived(shown.length > MOST_DRAWN);
	const virtual = createVirtualizer<HTMLDivElement, HTMLTableRowElement>({
		count: 0,
		getScrollElement: () => scroller ?? null,
		estimateSize: () => ROW_PX,
		overscan: 12
	});
	$effect(() => {
		get(virtual).setOptions({ count: long ? shown.length : 0, getScrollElement: () => scroller ?? null });
	});
	const drawn = $derived(
		long
			? $virtual.getVirtualItems().map(({ index }) => ({ row: shown[index], index }))
			: shown.map((row, index) => ({ row: row as Row | undefined, index }))
	);
	const above = $derived(long ? ($virtual.getVirtualItems()[0]?.start ?? 0) : 0);
	const below = $derived(long ? $virtual.getTotalSize() - ($virtual.getVirtualItems().at(-1)?.end ?? 0) : 0);

	function remember() {
		if (!page.data.person) return;
		const view: TableView = { sort: sorting.map(({ id, desc }) => ({ id, desc })), hidden: [...hidden] };
		void send('PUT', `/api/v1/people/me/tables/${name}`, view);
	}
	function setHidden(id: string, away: boolean) {
		hidden = away ? [...hidden, id] : hidden.filter((h) => h !== id);
		remember();
	}
	const titles = () => visible.filter((c) => c.title).map((c) => say.title(c.title));
	const cells = () => shown.map((row) => visible.filter((c) => c.title).map((c) => fileValue(c, row, say, zone)));
	function save(blob: Blob, ending: string) {
		const link = document.createElement('a');
		link.href = URL.createObjectURL(blob);
		link.download = `${name}.${ending}`;
		link.click();
		setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
	}
	// A spreadsheet takes the mark at the beginning for "these are all letters".
	const saveCsv = () => save(new Blob(['\ufeff', csvOf(titles(), cells(), say)], { type: 'text/csv;charset=utf-8' }), 'csv');
	async function saveXlsx() {
		const response = await fetch('/api/v1/tables/xlsx', {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ name, columns: titles(), rows: cells() })
		}).catch(() => null);
		if (response?.ok) save(await response.blob(), 'xlsx');
		else sayNot(((await response?.json().catch(() => null)) as { message?: string } | null)?.message ?? 'The server cannot be reached.');
	}
	/** Up and down go from row to row, Enter opens what its first link opens. */
	function move(event: KeyboardEvent, row: Row) {
		const here = event.currentTarget as HTMLTableRowElement;
		if (event.target !== here) return;
		if (event.key === 'Enter') {
			event.preventDefault();
			if (onpick) onpick(row);
			else here.querySelector<HTMLElement>('a, button')?.click();
		}
		if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return;
		event.preventDefault();
		let next = event.key === 'ArrowDown' ? here.nextElementSibling : here.previousElementSibling;
		if (next instanceof HTMLElement && next.dataset.row === undefined) next = null;
		(next as HTMLElement | null)?.focus();
	}
	const figures = (c: Column<Row>) => c.decimals !== undefined || c.figures === true;
</script>

{#snippet settings()}
	<div class="flex flex-wrap items-center gap-2 pb-2 text-sm" role="group" aria-label="{label}: filter, columns, files">
		<label class="input h-11 w-56 border-line bg-sheet"
			><input type="search" placeholder="filter" aria-label="Filter {label}" bind:value={wanted} /></label
		>
		<select class="select h-11 w-40 border-line bg-sheet" bind:value={wantedIn} aria-label="Filter in">
			<option value="">in any column</option>
			{#each columns.filter((c) => c.title) as c (c.id)}<option value={c.id}>in {say.title(c.title)}</option>{/each}
		</select>
		<details class="relative" bind:open={choosing}>
			<summary class="btn min-h-11 border-line bg-transparent font-normal">Columns</summary>
			{#if choosing}
				<div class="absolute right-0 z-20 max-h-80 w-64 overflow-y-auto border border-line bg-sheet p-2">
					{#each columns.filter((c) => c.title) as c (c.id)}
						<label class="flex min-h-11 items-center gap-2"
							><input
								type="checkbox"
								class="checkbox"
								checked={!hidden.includes(c.id)}
								disabled={!hidden.includes(c.id) && visible.filter((v) => v.title).length === 1}
								onchange={(e) => setHidden(c.id, !e.currentTarget.checked)}
							/>{say.title(c.title)}</label
						>
					{/each}
				</div>
			{/if}
		</details>
		<button class="btn min-h-11 border-line bg-transparent font-normal" onclick={saveCsv} disabled={!shown.length}>CSV</button>
		<button class="btn min-h-11 border-line bg-transparent font-normal" onclick={saveXlsx} disabled={!shown.length}>XLSX</button>
		<span class="text-soft" role="status"
			>{wanted.trim() ? `${shown.length} of ${rows.length}` : rows.length === 1 ? '1 row' : `${rows.length} rows`}</span
		>
	</div>
{/snippet}

<div class="flex flex-col {whole ? '' : 'h-full min-h-0'}" data-testid={testid}>
	{#if small}
		{#if open}{@render settings()}{/if}
	{:else}{@render settings()}{/if}
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<div class={whole ? 'overflow-x-auto' : 'min-h-0 flex-1 overflow-auto'} bind:this={scroller} role="group" aria-label={label} tabindex="0">
		<table class="rows {small ? 'text-sm' : ''}" aria-rowcount={shown.length + 1}>
			<thead>
				<tr>
					{#each visible as c, i (c.id)}
						{@const sorted = sorting.find((s) => s.id === c.id)}
						<th
							class={figures(c) ? 'n' : ''}
							aria-sort={sorted ? (sorted.desc ? 'descending' : 'ascending') : c.title ? 'none' : undefined}
						>
							{#if c.title}
								<button
									class="inline-flex min-h-6 min-w-6 items-center gap-1 {figures(c) ? 'justify-end' : ''} {sorted
										? 'font-semibold text-ink'
										: ''}"
									onclick={(e) => table.getColumn(c.id)?.toggleSorting(undefined, e.shiftKey)}
									>{say.title(c.title)}{#if sorted}{#if sorted.desc}<ArrowDown size={14} />{:else}<ArrowUp size={14} />{/if}{/if}</button
								>
							{/if}
							{#if small && i === visible.length - 1}<button
									class="ml-1 min-h-6 min-w-6 underline"
									onclick={() => (open = !open)}
									aria-expanded={open}
									aria-label="{label}: filter, columns, files">…</button
								>{/if}
						</th>
					{/each}
				</tr>
			</thead>
			<tbody>
				{#if above > 0}<tr aria-hidden="true"><td colspan={visible.length} style="height:{above}px;padding:0;border:0"></td></tr>{/if}
				{#each drawn as { row, index } (row === undefined ? index : key(row))}
					{#if row !== undefined}
						<tr
							class="{rowClass?.(row) ?? ''} {picked?.(row) ? 'bg-sheet font-semibold' : ''} {onpick ? 'cursor-pointer' : ''}"
							data-row={index}
							data-testid={rowTestid?.(row)}
							aria-rowindex={index + 2}
							aria-selected={picked ? picked(row) : undefined}
							tabindex={index === 0 || picked?.(row) ? 0 : -1}
							onclick={onpick ? () => onpick(row) : undefined}
							onkeydown={(e) => move(e, row)}
						>
							{#each visible as c (c.id)}
								<td class="{figures(c) ? 'n' : c.time ? 'figure whitespace-nowrap' : ''} {c.class ?? ''}"
									>{#if c.cell}{@render c.cell(row)}{:else}{shownText(c, row, say, zone)}{/if}</td
								>
							{/each}
						</tr>
					{/if}
				{:else}
					<tr
						><td colspan={visible.length} class="text-soft"
							>{rows.length
								? `No row has “${wanted.trim()}”${wantedIn ? ` in ${say.title(byId.get(wantedIn)!.title)}` : ''}.`
								: empty}{#if !rows.length && emptyLink}
								<a class="underline" href={emptyLink.href}>{emptyLink.words}</a>{/if}</td
						></tr
					>
				{/each}
				{#if below > 0}<tr aria-hidden="true"><td colspan={visible.length} style="height:{below}px;padding:0;border:0"></td></tr>{/if}
			</tbody>
		</table>
		{@render after?.()}
	</div>
</div>
