<script lang="ts">
	import DataTable from '$lib/ui/DataTable.svelte';
	import { bodies } from '$lib/api/bodies.ts';
	import SelectField from '$lib/ui/SelectField.svelte';
	import TextField from '$lib/ui/TextField.svelte';
	import EntryForm from '$lib/ui/EntryForm.svelte';
	import { entry } from '$lib/ui/entry.svelte.ts';
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { ACTIONS, APPROVALS, ROLES, type Action, type Approval, type Role } from '@keen-relay/core/people';
	import { ACTION_WORDS } from '$lib/model/words.ts';
	import { act, send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	const person = entry<typeof bodies.person, Code & { actionId?: number }>({
		id: 'person',
		schema: bodies.person,
		start: () => ({ name: '', badge: '', role: 'operator' as Role }),
		path: '/api/v1/people',
		done: ({ name }) => `${name} entered`,
		then: (made, { name, badge }) => tell({ name, username: badge }, made),
		draft: { subject: 'person' }
	});
	const { form: entered, errors: enteredErrors } = person;
	interface Code {
		code?: string;
		endsAt?: string;
	}
	/** A starting code is told once: it stands here until somebody closes it. */
	let told = $state<{ name: string; badge: string; code: string; endsAt: string } | null>(null);
	let opened = $state<string | null>(null);
	const here = $derived(data.people.filter((p) => p.leftAt === null));
	type StationPc = (typeof data.stationPcs)[number];
	type Person = (typeof data.people)[number];
	const changed = $derived(here.find((p) => p.id === opened) ?? null);
	const gone = $derived(data.people.filter((p) => p.leftAt !== null));
	function tell(of: { name: string; username: string | null }, made: Code | null) {
		if (made?.code && made.endsAt) told = { name: of.name, badge: of.username ?? '', code: made.code, endsAt: made.endsAt };
	}
	const APPROVAL_WORDS: Record<Approval, string> = { none: 'none', pin: 'PIN at a shared screen', second: 'a second person' };

	function setRole(action: Action, role: Role, on: boolean) {
		const { roles, approval } = data.rights[action];
		const next = ROLES.filter((r) => (r === role ? on : roles.includes(r)));
		void act(
			'PUT',
			`/api/v1/rights/${action}`,
			{ roles: next, approval, startedFrom: data.rights[action] },
			`${ACTION_WORDS[action]}: changed`
		);
	}
	function setApproval(action: Action, approval: Approval) {
		void act(
			'PUT',
			`/api/v1/rights/${action}`,
			{ roles: data.rights[action].roles, approval, startedFrom: data.rights[action] },
			`${ACTION_WORDS[action]}: changed`
		);
	}
	const own = entry({
		id: 'own-pin',
		schema: bodies.ownPin,
		start: () => ({ pin: '', newPin: '' }),
		method: 'PUT',
		path: '/api/v1/people/me/pin',
		done: () => 'Your PIN is changed; your other sign-ins are ended'
	});
	const { form: pins, errors: pinErrors } = own;
	const change = async (p: (typeof data.people)[number], body: object, words: string) =>
		tell(p, await act<Code & { actionId?: number }>('PUT', `/api/v1/people/${p.id}`, body, words));
	const reset = async (p: (typeof data.people)[number]) =>
		tell(
			p,
			await act<Code & { actionId?: number }>('POST', `/api/v1/people/${p.id}/code`, {}, `${p.name} is signed out and chooses another PIN`)
		);
	/** This browser becomes the station PC; whoever does it is signed out of it. */
	const stationPc = entry({
		id: 'station-pc',
		schema: bodies.stationPc,
		start: () => ({ name: '', lineId: null }),
		path: '/api/v1/station-pcs',
		done: ({ name }) => `${name} is a station PC now`,
		then: async () => {
			await send('POST', '/api/auth/sign-out', {});
			await goto('/', { invalidateAll: true });
		}
	});
	const { form: pc, errors: pcErrors } = stationPc;
</script>

<div class="beside grid h-full gap-6 pt-3 [--beside:400px]">
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<section class="min-h-0 overflow-y-auto" aria-label="Who may do what" tabindex="0">
		<h1 class="text-[26px] leading-8 font-bold">Who may do what</h1>
		<p class="text-soft">Every route and every button asks this table. A lead edits it; each change can be undone in the log.</p>
		<table class="rows mt-2 text-sm" data-testid="rights">
			<thead
				><tr
					><th>Action</th>{#each ROLES as role (role)}<th class="text-center">{role}</th>{/each}<th>Approval</th></tr
				></thead
			>
			<tbody>
				{#each ACTIONS as action (action)}
					{@const rule = data.rights[action]}
					<tr>
						<td>{ACTION_WORDS[action]} <span class="figure text-xs text-soft">{action}</span></td>
						{#each ROLES as role (role)}
							<td class="text-center"
								><input
									type="checkbox"
									class="checkbox border-soft checkbox-sm"
									checked={rule.roles.includes(role)}
									disabled={!can('rights.set')}
									onchange={(event) => setRole(action, role, event.currentTarget.checked)}
									aria-label="{role} may: {ACTION_WORDS[action]}"
								/></td
							>
						{/each}
						<td
							><select
								class="select h-8 w-48 border-line bg-sheet text-sm"
								value={rule.approval}
								disabled={!can('rights.set')}
								onchange={(event) => setApproval(action, event.currentTarget.value as Approval)}
								aria-label="Approval of: {ACTION_WORDS[action]}"
							>
								{#each APPROVALS as approval (approval)}<option value={approval}>{APPROVAL_WORDS[approval]}</option>{/each}
							</select></td
						>
					</tr>
				{/each}
			</tbody>
		</table>
	</section>
	<aside class="flex min-h-0 flex-col gap-4 overflow-y-auto border-l border-line pb-3 pl-5">
		<section>
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">People</h2>
			<EntryForm
				enhance={person.enhance}
				draft={person.draft}
				label="New person"
				class="mb-2 grid grid-cols-2 gap-2 border-b border-hair py-2"
			>
				<TextField label="Name" bind:value={$entered.name} errors={$enteredErrors.name} class="h-10" />
				<TextField
					label="Badge"
					spoken="Badge of the new person"
					bind:value={$entered.badge}
					errors={$enteredErrors.badge}
					figure
					scan
					class="h-10"
				/>
				<SelectField
					label="Role"
					spoken="Role of the new person"
					bind:value={$entered.role}
					errors={$enteredErrors.role}
					options={ROLES.map((role) => [role, role])}
					class="h-10"
				/>
				<button class="btn h-12 self-end btn-primary" disabled={!can('person.create')}>Enter the person</button>
				<p class="col-span-2 text-sm text-soft">They get a starting code and choose their own PIN with it.</p>
			</EntryForm>
			{#if told}
				<div class="my-2 border-2 border-ink px-3 py-2" role="status" data-testid="starting-code">
					<p>
						<span class="font-semibold">{told.name}</span>, badge <span class="figure">{told.badge}</span>, chooses a PIN on the sign-in
						page with
					</p>
					<p class="figure text-[28px] leading-9 font-bold">{told.code}</p>
					<p class="text-sm text-soft">Told once; it ends {dayTime(told.endsAt, zone)} or when it was used.</p>
					<button class="btn mt-1 min-h-11 border-line bg-transparent font-normal" onclick={() => (told = null)}
						>I have handed it over</button
					>
				</div>
			{/if}
			{#snippet changing(p: Person)}<button
					class="btn min-h-11 border-line bg-transparent font-normal"
					disabled={!can('person.change')}
					aria-expanded={opened === p.id}
					onclick={() => (opened = opened === p.id ? null : p.id)}>Change</button
				>{/snippet}
			<div class="flex max-h-96 flex-col">
				<DataTable
					small
					name="people"
					label="People"
					testid="people"
					rows={here}
					key={(p) => p.id}
					picked={(p) => p.id === opened}
					columns={[
						{ id: 'name', title: 'Name', value: (p) => p.name },
						{ id: 'badge', title: 'Badge', value: (p) => p.username, class: 'figure' },
						{ id: 'role', title: 'Role', value: (p) => `${p.role}${p.codeEndsAt ? ', has a starting code' : ''}` },
						{ id: 'change', title: '', value: () => null, cell: changing, class: 'text-right' }
					]}
					empty="Nobody yet."
				/>
			</div>
			{#if changed}
				{@const p = changed}
				<div class="mt-2 flex flex-wrap items-center gap-2 border-l-4 border-copper pl-3" role="group" aria-label="Change {p.name}">
					<strong class="w-full">{p.name}</strong>
					<select
						class="select h-11 w-36 border-line bg-sheet text-sm"
						value={p.role}
						onchange={(e) => change(p, { role: e.currentTarget.value }, `${p.name} is ${e.currentTarget.value} now`)}
						aria-label="Role of {p.name}"
						>{#each ROLES as role (role)}<option>{role}</option>{/each}</select
					>
					<button class="btn min-h-11 border-line bg-transparent font-normal" onclick={() => reset(p)}>Reset the PIN</button>
					<button
						class="btn min-h-11 border-line bg-transparent font-normal"
						onclick={() => change(p, { left: true }, `${p.name} has left; what they did stays theirs`)}>Has left</button
					>
				</div>
			{/if}
			{#if gone.length}
				<details class="mt-1 text-sm" data-testid="leavers">
					<summary class="min-h-8 cursor-pointer text-soft">{gone.length} who {gone.length === 1 ? 'has' : 'have'} left</summary>
					<ul>
						{#each gone as p (p.id)}<li class="flex items-center gap-2 border-b border-hair py-1">
								<span class="flex-1">{p.name} <span class="figure text-soft">{p.username}</span></span>
								<button
									class="btn min-h-11 border-line bg-transparent font-normal"
									disabled={!can('person.change')}
									onclick={() => change(p, { left: false }, `${p.name} is back`)}>Is back</button
								>
							</li>{/each}
					</ul>
				</details>
			{/if}
			<EntryForm enhance={own.enhance} label="My PIN" class="mt-3 grid grid-cols-[1fr_1fr_auto] items-end gap-2 border-t border-hair pt-2">
				<TextField
					label="My PIN now"
					type="password"
					autocomplete="current-password"
					bind:value={$pins.pin}
					errors={$pinErrors.pin}
					figure
					class="h-10"
				/>
				<TextField
					label="My new PIN"
					type="password"
					autocomplete="new-password"
					bind:value={$pins.newPin}
					errors={$pinErrors.newPin}
					figure
					class="h-10"
				/>
				<button class="btn h-10 border-ink bg-transparent">Change</button>
				<p class="col-span-3 text-sm text-soft">
					{data.pins[page.data.person?.role ?? 'lead']} digits or more. Your other sign-ins end.
				</p>
			</EntryForm>
		</section>
		<section>
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">Station PCs</h2>
			{#snippet signOut(pc: StationPc)}{#if pc.revokedAt}signed out{:else}<button
						class="btn h-9 border-line bg-transparent font-normal"
						disabled={!can('stationPc.revoke')}
						onclick={() => act('DELETE', `/api/v1/station-pcs/${pc.id}`, undefined, `${pc.name} signed out`)}>Sign out</button
					>{/if}{/snippet}
			<div class="flex max-h-60 flex-col">
				<DataTable
					small
					name="station-pcs"
					label="Station PCs"
					testid="station-pcs"
					rows={data.stationPcs}
					key={(pc) => pc.id}
					rowClass={(pc) => (pc.revokedAt ? 'text-soft' : '')}
					columns={[
						{ id: 'name', title: 'Screen', value: (pc) => pc.name },
						{ id: 'line', title: 'Line', value: (pc) => pc.line ?? 'any line' },
						{ id: 'made', title: 'Made', value: (pc) => new Date(pc.createdAt).getTime(), time: true },
						{ id: 'by', title: 'By', value: (pc) => pc.by },
						{ id: 'out', title: '', value: () => null, cell: signOut, class: 'text-right' }
					]}
					empty="No shared screen yet."
				/>
			</div>
			<EntryForm enhance={stationPc.enhance} label="Station PC" class="mt-2 grid grid-cols-2 gap-2">
				<TextField label="Name of this PC" bind:value={$pc.name} errors={$pcErrors.name} class="h-10" />
				<SelectField
					label="Line"
					spoken="Line of this PC"
					bind:value={$pc.lineId}
					errors={$pcErrors.lineId}
					options={[[null, 'any'], ...(page.data.lines ?? []).map((line: { id: number; name: string }) => [line.id, line.name] as const)]}
					class="h-10"
				/>
				<button class="btn col-span-2 h-12 border-ink bg-transparent" disabled={!can('stationPc.create')}
					>Make this browser a station PC</button
				>
				<p class="col-span-2 text-sm text-soft">You are signed out here; badges then name people for what they do.</p>
			</EntryForm>
		</section>
	</aside>
</div>
