<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { ACTIONS, APPROVALS, ROLES, type Action, type Approval, type Role } from '@keen-relay/core/people';
	import { ACTION_WORDS } from '$lib/model/words.ts';
	import { act, send } from '$lib/ui/api.ts';
	import { can } from '$lib/ui/can.ts';
	import { dayTime } from '$lib/ui/format.ts';

	let { data } = $props();
	const zone = $derived(page.data.plant?.timeZone ?? 'UTC');
	let person = $state({ name: '', badge: '', role: 'operator' as Role });
	interface Code {
		code?: string;
		endsAt?: string;
	}
	/** A starting code is told once: it stands here until somebody closes it. */
	let told = $state<{ name: string; badge: string; code: string; endsAt: string } | null>(null);
	let opened = $state<string | null>(null);
	const here = $derived(data.people.filter((p) => p.leftAt === null));
	const gone = $derived(data.people.filter((p) => p.leftAt !== null));
	function tell(of: { name: string; username: string | null }, made: Code | null) {
		if (made?.code && made.endsAt) told = { name: of.name, badge: of.username ?? '', code: made.code, endsAt: made.endsAt };
	}
	let pcName = $state('');
	let pcLine = $state<number | null>(null);
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
	let own = $state({ pin: '', newPin: '' });
	async function changeOwn(event: SubmitEvent) {
		event.preventDefault();
		if (await act('PUT', '/api/v1/people/me/pin', own, 'Your PIN is changed; your other sign-ins are ended')) own = { pin: '', newPin: '' };
	}
	const change = async (p: (typeof data.people)[number], body: object, words: string) =>
		tell(p, await act<Code & { actionId?: number }>('PUT', `/api/v1/people/${p.id}`, body, words));
	const reset = async (p: (typeof data.people)[number]) =>
		tell(
			p,
			await act<Code & { actionId?: number }>('POST', `/api/v1/people/${p.id}/code`, {}, `${p.name} is signed out and chooses another PIN`)
		);
	async function add(event: SubmitEvent) {
		event.preventDefault();
		const entered = $state.snapshot(person);
		const made = await act<Code & { actionId?: number }>('POST', '/api/v1/people', entered, `${entered.name} entered`);
		if (!made) return;
		tell({ name: entered.name, username: entered.badge }, made);
		person = { name: '', badge: '', role: 'operator' };
	}
	/** This browser becomes the station PC; whoever does it is signed out of it. */
	async function makeStationPc(event: SubmitEvent) {
		event.preventDefault();
		if (!(await act('POST', '/api/v1/station-pcs', { name: pcName, lineId: pcLine }, `${pcName} is a station PC now`))) return;
		await send('POST', '/api/auth/sign-out', {});
		await goto('/', { invalidateAll: true });
	}
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
			<form class="mb-2 grid grid-cols-2 gap-2 border-b border-hair py-2 text-sm" onsubmit={add}>
				<label
					><span class="text-soft">Name</span><input
						class="input h-10 w-full border-line bg-sheet"
						bind:value={person.name}
						required
					/></label
				>
				<label
					><span class="text-soft">Badge</span><input
						class="figure input h-10 w-full border-line bg-sheet"
						bind:value={person.badge}
						data-scan
						required
						aria-label="Badge of the new person"
					/></label
				>
				<label
					><span class="text-soft">Role</span><select
						class="select h-10 w-full border-line bg-sheet"
						bind:value={person.role}
						aria-label="Role of the new person"
						>{#each ROLES as role (role)}<option>{role}</option>{/each}</select
					></label
				>
				<button class="btn h-12 self-end btn-primary" disabled={!can('person.create')}>Enter the person</button>
				<p class="col-span-2 text-soft">They get a starting code and choose their own PIN with it.</p>
			</form>
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
			<table class="rows text-sm" data-testid="people">
				<tbody>
					{#each here as p (p.id)}<tr
							><td class="font-semibold">{p.name}</td><td class="figure">{p.username}</td><td
								>{p.role}{#if p.codeEndsAt}<br /><span class="text-soft">has a starting code</span>{/if}</td
							>
							<td class="text-right"
								><button
									class="btn min-h-11 border-line bg-transparent font-normal"
									disabled={!can('person.change')}
									aria-expanded={opened === p.id}
									onclick={() => (opened = opened === p.id ? null : p.id)}>Change</button
								></td
							></tr
						>
						{#if opened === p.id}
							<tr
								><td colspan="4"
									><div class="flex flex-wrap gap-2 pb-2">
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
									</div></td
								></tr
							>
						{/if}{/each}
				</tbody>
			</table>
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
			<form
				class="mt-3 grid grid-cols-[1fr_1fr_auto] items-end gap-2 border-t border-hair pt-2 text-sm"
				onsubmit={changeOwn}
				aria-label="My PIN"
			>
				<label
					><span class="text-soft">My PIN now</span><input
						class="figure input h-10 w-full border-line bg-sheet"
						type="password"
						autocomplete="current-password"
						bind:value={own.pin}
						required
					/></label
				>
				<label
					><span class="text-soft">My new PIN</span><input
						class="figure input h-10 w-full border-line bg-sheet"
						type="password"
						autocomplete="new-password"
						bind:value={own.newPin}
						required
					/></label
				>
				<button class="btn h-10 border-ink bg-transparent">Change</button>
				<p class="col-span-3 text-soft">{data.pins[page.data.person?.role ?? 'lead']} digits or more. Your other sign-ins end.</p>
			</form>
		</section>
		<section>
			<h2 class="border-b border-hair pb-1 font-semibold text-soft">Station PCs</h2>
			<table class="rows text-sm" data-testid="station-pcs">
				<tbody>
					{#each data.stationPcs as pc (pc.id)}
						<tr class={pc.revokedAt ? 'text-soft' : ''}>
							<td class="font-semibold">{pc.name}</td>
							<td>{pc.line ?? 'any line'}</td>
							<td class="text-xs">{dayTime(pc.createdAt, zone)}, {pc.by}</td>
							<td class="text-right"
								>{#if pc.revokedAt}signed out{:else}<button
										class="btn h-9 border-line bg-transparent font-normal"
										disabled={!can('stationPc.revoke')}
										onclick={() => act('DELETE', `/api/v1/station-pcs/${pc.id}`, undefined, `${pc.name} signed out`)}>Sign out</button
									>{/if}</td
							>
						</tr>
					{:else}<tr><td class="text-soft">No shared screen yet.</td></tr>{/each}
				</tbody>
			</table>
			<form class="mt-2 grid grid-cols-2 gap-2 text-sm" onsubmit={makeStationPc}>
				<label
					><span class="text-soft">Name of this PC</span><input
						class="input h-10 w-full border-line bg-sheet"
						bind:value={pcName}
						required
						aria-label="Name of this PC"
					/></label
				>
				<label
					><span class="text-soft">Line</span><select
						class="select h-10 w-full border-line bg-sheet"
						bind:value={pcLine}
						aria-label="Line of this PC"
						><option value={null}>any</option>{#each page.data.lines ?? [] as line (line.id)}<option value={line.id}>{line.name}</option
							>{/each}</select
					></label
				>
				<button class="btn col-span-2 h-12 border-ink bg-transparent" disabled={!can('stationPc.create')}
					>Make this browser a station PC</button
				>
				<p class="col-span-2 text-soft">You are signed out here; badges then name people for what they do.</p>
			</form>
		</section>
	</aside>
</div>
