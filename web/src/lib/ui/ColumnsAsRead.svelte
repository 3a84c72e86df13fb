<script lang="ts">
	import type { ColumnsSeen } from '@keen-relay/core/tables';

	interface Props {
		/** The file as it was cut. */
		seen: ColumnsSeen;
		/** What a column can be, with its words. */
		roles: readonly (readonly [string, string])[];
		/** Those that have to be there. */
		needed: readonly string[];
		file: string;
		/** Somebody says what a column is. */
		onchoose: (roles: (string | null)[]) => void;
	}
	let { seen, roles, needed, file, onchoose }: Props = $props();
	let chosen = $derived([...seen.roles]);
	const words = $derived(new Map(roles));
	const lacking = $derived(needed.filter((role) => !chosen.includes(role)).map((role) => words.get(role)));
	const changed = $derived(chosen.join() !== seen.roles.join());

	/** No two columns are the same thing. */
	function choose(at: number, role: string | null) {
		chosen = chosen.map((known, i) => (i === at ? role : known === role ? null : known));
	}
</script>

<div class="flex min-h-0 flex-col gap-2">
	<div class="min-h-0 overflow-auto border border-line bg-sheet">
		<table class="text-sm" aria-label="Columns of {file}">
			<thead>
				<tr>
					{#each chosen as role, i (i)}
						<th class="border-r border-line p-1 text-left align-top font-normal last:border-r-0">
							<select
								class="select h-10 w-36 border-line bg-base-100 {role === null ? 'text-soft' : 'font-semibold'}"
								aria-label="Column {i + 1}{seen.titles ? `, ${seen.titles[i] ?? ''}` : ''}"
								value={role ?? ''}
								onchange={(event) => choose(i, event.currentTarget.value || null)}
							>
								<option value="">not used</option>
								{#each roles as [value, name] (value)}<option {value}>{name}</option>{/each}
							</select>
							<span class="block max-w-36 truncate pt-1 pl-1 text-soft">{seen.titles ? (seen.titles[i] ?? '') : `column ${i + 1}`}</span>
						</th>
					{/each}
				</tr>
			</thead>
			<tbody>
				{#each seen.sample as row, r (r)}
					<tr class="border-t border-line">
						{#each chosen as role, i (i)}
							<td class="figure max-w-40 truncate border-r border-line px-2 py-1 last:border-r-0 {role === null ? 'text-soft' : ''}"
								>{row[i] ?? ''}</td
							>
						{/each}
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="flex items-center gap-3">
		<button class="btn h-12 btn-primary" type="button" disabled={lacking.length > 0} onclick={() => onchoose(chosen)}
			>{changed || lacking.length ? 'Read it like this' : 'These are right'}</button
		>
		<p class="text-sm text-soft">
			{lacking.length
				? `No column is chosen for ${lacking.join(', ')}.`
				: 'Kept with the board: the customer’s next file with these titles is read the same way, and says so.'}
		</p>
	</div>
</div>
