import { randomUUID } from 'node:crypto';
import { expect, request, test, type APIRequestContext } from './test.ts';
import { SIGNATURE_THRESHOLDS, DEPOSIT_LIMITS } from '@keen-relay/core/inspection';
import { startingPrintRecipe } from '@keen-relay/core/printing';
import { STENCIL_RULES } from '@keen-relay/core/stencil';

// The print cell by its API, as a machine's adapter or an engineer's script uses it: what is refused says which field, which value and what to do.

async function person(badge: string, pin: string): Promise<APIRequestContext> {
	const origin = process.env.BASE_URL!;
	const api = await request.newContext({ baseURL: origin, extraHTTPHeaders: { origin } });
	expect((await api.post('/api/auth/sign-in/username', { data: { username: badge, password: pin } })).status()).toBe(200);
	return api;
}
const machine = () =>
	request.newContext({ baseURL: process.env.BASE_URL!, extraHTTPHeaders: { authorization: `Bearer ${process.env.MACHINE_TOKEN}` } });

/** A refusal in words: its first issue. */
async function refusal(response: { status(): number; json(): Promise<unknown> }, status = 422) {
	expect(response.status()).toBe(status);
	const { message, issues } = (await response.json()) as { message: string; issues?: { field: string; value: string; message: string }[] };
	expect(message).not.toMatch(/\[object|at .*\.ts/);
	return { message, field: issues?.[0]?.field ?? '' };
}

/** The revision that stands, as the answer to an edit that started from another one names it. */
async function standing(stale: { status(): number; json(): Promise<unknown> }): Promise<number> {
	expect(stale.status()).toBe(409);
	return ((await stale.json()) as { conflict: { now: number } }).conflict.now;
}

test('jars: what cannot be is named by its field', async () => {
	const api = await person('basil', '2002');
	const jar = (more: object) =>
		api.post('/api/v1/jars', { data: { id: `J-A${Date.now() % 1e6}`, pasteId: 1, lot: 'L9', expiry: '2099-05', grams: 500, ...more } });
	expect((await refusal(await jar({ grams: -5 }))).field).toBe('grams');
	expect((await refusal(await jar({ expiry: '31.05.2099' }))).message).toContain('2027-05-31');
	expect((await refusal(await jar({ expiry: '2099-02-30' }))).message).toContain('a day that exists');
	expect((await refusal(await jar({ expiry: '2001-01' }))).message).toContain('after it was received');
	expect((await refusal(await jar({ lot: '' }))).message).toContain('the lot stands on the label');
	const id = `J-A1-${Date.now() % 1e6}`;
	const kept = await jar({ id });
	expect(kept.status()).toBe(201);
	const twice = await jar({ id });
	expect([409, 422]).toContain(twice.status());
	expect((await refusal(await api.post('/api/v1/jars/NO-SUCH/events', { data: { kind: 'open' } }))).message).toContain('NO-SUCH');
});

test('a jar by its events: the refusal, the fact, the mis-scan that takes it back', async () => {
	const api = await person('basil', '2002');
	const id = `J-B${Date.now() % 1e6}`;
	await api.post('/api/v1/jars', { data: { id, pasteId: 1, lot: 'L9', expiry: '2099-05', grams: 500, fridgeId: 1 } });
	const event = (data: object) => api.post(`/api/v1/jars/${id}/events`, { data });
	expect(await (await event({ kind: 'store_cold' })).json()).toMatchObject({ state: 'cold' });
	expect((await refusal(await event({ kind: 'load_stencil', lineId: 1, grams: 100 }))).message.length).toBeGreaterThan(10);
	const out = await event({ kind: 'take_out' });
	expect(await out.json()).toMatchObject({ state: 'warming' });
	await refusal(await event({ kind: 'mix', by: 'mixer' }));
	const opened = await (await event({ kind: 'open', stirred: true, fact: true })).json();
	expect(opened).toMatchObject({ state: 'quarantined', quarantine: ['open_before_warm'] });
	// Nothing is overwritten: the entry that was wrong is taken back by another.
	const back = await event({ kind: 'mis_scan', of: opened.eventId ?? opened.id, fact: true });
	if (back.ok()) expect((await back.json()).state).toBe('warming');
	expect((await refusal(await event({ kind: 'open', at: '2099-01-01T00:00:00Z', fact: true }))).message).toMatch(/happened|future/);
	const reviewed = await event({ kind: 'review_ok' });
	expect([200, 201, 422]).toContain(reviewed.status());
});

test('sensors report as machines do: unknown ones, wrong values and late readings are told apart', async () => {
	const [api, plant] = [await machine(), await person('basil', '2002')];
	const name = `Cabinet ${Date.now() % 1e6}`;
	expect((await plant.post('/api/v1/sensors', { data: { name, kind: 'cabinet', lowC: 18, highC: 30, highRhPct: 10 } })).status()).toBe(201);
	const { now } = await (await api.get('/api/v1/clock')).json();
	const bootId = randomUUID();
	const send = async (number: number, fields: object) => {
		const line = JSON.stringify({
			source: `Sensors/${name}`,
			bootId,
			number,
			at: now,
			type: 'sensor_reading',
			temperatureC: 24,
			rhPct: 5,
			...fields
		});
		return (await api.post('/api/v1/messages', { data: line, headers: { 'content-type': 'application/x-ndjson' } })).json();
	};
	expect(await send(0, {})).toMatchObject({ accepted: 1, quarantined: [] });
	expect(await send(0, {})).toMatchObject({ accepted: 0, duplicates: 1 });
	expect((await send(1, { temperatureC: 240 })).quarantined[0].reason).toContain('temperatureC');
	expect((await send(2, { rhPct: 0 })).quarantined[0].reason).toContain('rhPct');
	expect((await send(3, { source: 'Sensors/Nowhere' })).quarantined[0].reason).toContain('Nowhere');
	const listed = (await (await api.get('/api/v1/sensors')).json()) as { name: string; everyMin: number }[];
	expect(listed.find((s) => s.name === name)).toMatchObject({ everyMin: 5 });
});

test('rules for openings, limits and thresholds: contradictions are refused by class and field, what was there stays', async () => {
	const api = await person('basil', '2002');
	const rules = { ...STENCIL_RULES, chip: { ...STENCIL_RULES.chip, widthPct: 400 } };
	await refusal(await api.put('/api/v1/opening-rules', { data: { rules, note: 'nonsense' } }));
	const limits = structuredClone(DEPOSIT_LIMITS) as Record<string, { volumePct: { fail: number[]; warn: number[] } }>;
	limits.fineLead!.volumePct.warn = [40, 200];
	expect((await refusal(await api.put('/api/v1/paste-limits', { data: { limits, note: '' } }))).message).toContain(
		'warning limits inside the failing ones'
	);
	limits.fineLead!.volumePct = { fail: [160, 90], warn: [75, 125] };
	await refusal(await api.put('/api/v1/paste-limits', { data: { limits, note: '' } }));
	const thresholds = { ...SIGNATURE_THRESHOLDS, clogLp: 0.01 };
	expect((await refusal(await api.put('/api/v1/signature-thresholds', { data: { thresholds, note: '' } }))).message).toContain('clogLp');
	const { clogLp: _, ...missing } = SIGNATURE_THRESHOLDS;
	expect((await refusal(await api.put('/api/v1/signature-thresholds', { data: { thresholds: missing, note: '' } }))).message).toContain(
		'clogLp'
	);
});

test('widening a limit needs a second person, who is not the one who asks; a panel keeps the limits that judged it', async () => {
	const api = await person('basil', '2002');
	const { work } = (await (await (await machine()).get('/api/v1/lines/1/work')).json()) as { work: { job: string } };
	const judgedBy = async () => {
		const { limits, limitRevision } = (await (await api.get(`/api/v1/panels/${work.job}-0003/paste`)).json()) as {
			limits: typeof DEPOSIT_LIMITS;
			limitRevision: number | null;
		};
		return { limits, limitRevision };
	};
	const then = await judgedBy();
	expect(then.limits.large.areaPct).toEqual(DEPOSIT_LIMITS.large.areaPct);
	const limits = structuredClone(DEPOSIT_LIMITS);
	limits.large.areaPct = [50, 160];
	const approval = (badge: string, pin: string) => ({ 'x-approval': Buffer.from(JSON.stringify({ badge, pin })).toString('base64') });
	const put = (wanted: object, startedFrom: number | null, headers: Record<string, string> = {}) =>
		api.put('/api/v1/paste-limits', { data: { limits: wanted, note: 'area of connectors', startedFrom }, headers });
	const first = await put(DEPOSIT_LIMITS, null);
	const before = first.status() === 409 ? await standing(first) : ((await first.json()) as { revision: number }).revision;
	const asked = await put(limits, before);
	expect(asked.status()).toBe(428);
	expect((await asked.json()).approval).toMatchObject({ action: 'limits.widen', second: true });
	expect((await refusal(await put(limits, before, approval('basil', '2002')))).message).toContain('A second person');
	// An approved change that started from an older revision would undo what was kept meanwhile.
	expect(await standing(await put(limits, before + 7, approval('dessa', '200468')))).toBe(before);
	const approved = await put(limits, before, approval('dessa', '200468'));
	expect(approved.status()).toBe(200);
	const { wider, revision } = (await approved.json()) as { wider: string[]; revision: number };
	expect(wider).toContain('leads and connectors area');
	expect(revision).toBe(before + 1);
	expect(await standing(await put(DEPOSIT_LIMITS, before))).toBe(revision);
	expect(await judgedBy()).toEqual(then);
	// Back to where it was: tightening needs nobody else.
	expect((await put(DEPOSIT_LIMITS, revision)).status()).toBe(200);
});

test('a confirmed land pattern names the balls of a grid; withdrawn, they are openings again', async () => {
	const api = await person('basil', '2002');
	const geometry = async () =>
		(await (await api.get('/api/v1/sides/1/geometry')).json()) as {
			apertures: { refDes: string | null; pin: string | null }[];
			parts: { refDes: string; packageName: string }[];
		};
	const { packageName } = (await geometry()).parts.find((p) => p.refDes === 'U2')!;
	const pins = async () => (await geometry()).apertures.filter((a) => a.refDes === 'U2').map((a) => a.pin);
	expect(new Set(await pins())).toEqual(new Set([null]));
	const fact = (field: string, value: number | null, source: string, startedFrom: number | null = null) =>
		api.put('/api/v1/packages', { data: { name: packageName, field, value, source, startedFrom } });
	expect((await fact('pinOneDeg', 135, 'drawing of the maker, rev 3')).status()).toBe(200);
	const named = await pins();
	expect(new Set(named).size).toBe(81);
	expect([...named].sort().slice(0, 3)).toEqual(['A1', 'A2', 'A3']);
	expect(named).toContain('J9');
	// Whoever began before that is told what stands now.
	const late = await fact('pinOneDeg', 90, 'drawing of the maker, rev 2');
	expect(late.status()).toBe(409);
	expect((await late.json()).conflict).toEqual({ now: 135 });
	expect((await fact('pinOneDeg', null, 'withdrawn', 135)).status()).toBe(200);
	expect(new Set(await pins())).toEqual(new Set([null]));
});

test('stencils: the wrong one is refused with every reason, a damaged one too, until it is repaired', async () => {
	const api = await person('anwen', '2001');
	const event = (id: number, data: object) => api.post(`/api/v1/stencil-tools/${id}/events`, { data });
	// Line 3 builds another board than S-001 was made for.
	const wrong = await refusal(await event(1, { kind: 'mount', lineId: 3 }));
	expect(wrong.message).toMatch(/S-001 prints Orchard frost sensor; this job is .*Fetch the stencil/);
	expect((await event(1, { kind: 'damage', note: 'dent beside U3' })).ok()).toBe(true);
	expect((await refusal(await event(1, { kind: 'mount', lineId: 1 }))).message).toMatch(/dent beside U3|blocked|damage/i);
	expect((await event(1, { kind: 'repair', note: 'straightened, looked through' })).ok()).toBe(true);
	expect((await refusal(await event(999, { kind: 'clean' }))).message).toContain('no such stencil');
	const slack = await api.post('/api/v1/stencil-tools/1/tension', {
		data: { readings: [38, 39, 22, 38, 37].map((nPerCm, i) => ({ x: 60 * i, y: 40, nPerCm })) }
	});
	expect(slack.ok()).toBe(true);
	const good = await api.post('/api/v1/stencil-tools/1/tension', {
		data: { readings: [38, 39, 38, 38, 37].map((nPerCm, i) => ({ x: 60 * i, y: 40, nPerCm })) }
	});
	expect(good.ok()).toBe(true);
});

test('a print recipe: pins off the panel or under parts are refused, what is unusual is kept as entered', async () => {
	const api = await person('basil', '2002');
	const recipe = startingPrintRecipe(118, null);
	// Pins that hold the panel: what is released here is printed with afterwards.
	const support = [15, 45, 75, 105].flatMap((x) => [22, 45, 68].map((y) => ({ x, y, radiusMm: 2 })));
	const release = (more: object) => api.post('/api/v1/print-recipes', { data: { sideId: 1, lineId: 1, recipe, support, ...more } });
	await refusal(await release({ recipe: { ...recipe, speedMmPerS: -40 } }));
	await refusal(await release({ support: [{ x: 50, y: 40, radiusMm: 99 }] }));
	const startedFrom = await standing(await release({ startedFrom: 9999 }));
	const released = await release({ startedFrom });
	expect(released.status()).toBe(201);
	const { revision } = (await released.json()) as { revision: number };
	expect(revision).toBe(startedFrom + 1);
	expect(await standing(await release({ startedFrom }))).toBe(revision);
	const next = await release({ recipe: { ...recipe, speedMmPerS: 35 }, startedFrom: revision });
	expect((await next.json()).revision).toBe(revision + 1);
});

test('trials and first prints ask for a run that is going on', async () => {
	const api = await person('anwen', '2001');
	const ranges = {
		force: { low: 0.18, high: 0.26, unit: 'kg/cm' },
		speed: { low: 30, high: 60, unit: 'mm/s' },
		separation: { low: 1, high: 5, unit: 'mm/s' }
	};
	expect((await refusal(await api.post('/api/v1/runs/1/trials', { data: { ranges, panelsEach: 4 } }))).message).toContain('not going on');
	expect((await refusal(await api.post('/api/v1/runs/1/first-print'))).message).toContain('not going on');
	expect((await refusal(await api.post('/api/v1/runs/1/first-print/more'))).message).toContain('not waiting');
	expect((await refusal(await api.post('/api/v1/trials/99999/settings'))).message).toContain('not going on');
	expect((await refusal(await api.post('/api/v1/misprints/99999/steps', { data: { step: 0 } }))).message).toContain('no such misprint');
	const { work } = await (await (await machine()).get('/api/v1/lines/2/work')).json();
	expect((await refusal(await api.post(`/api/v1/runs/${work.runId}/trials`, { data: { ranges, panelsEach: 3 } }))).message).toContain(
		'even number'
	);
	const begun = await api.post(`/api/v1/runs/${work.runId}/trials`, { data: { ranges, panelsEach: 2 } });
	expect(begun.status()).toBe(201);
	expect((await refusal(await api.post(`/api/v1/runs/${work.runId}/trials`, { data: { ranges, panelsEach: 2 } }))).message).toContain(
		'A trial is going on'
	);
	const { id } = await begun.json();
	expect(await (await api.post(`/api/v1/trials/${id}/settings`)).json()).toEqual({ setting: 0 });
	expect((await refusal(await api.post(`/api/v1/trials/${id}/settings`))).message).toContain('of its 2 panels inspected');
	expect((await api.post(`/api/v1/trials/${id}/end`)).ok()).toBe(true);
});

test('what an operator may not do is refused with whom to ask', async () => {
	const api = await person('edda', '2005');
	const asked = [
		['put', '/api/v1/signature-thresholds', { thresholds: SIGNATURE_THRESHOLDS, note: '' }],
		['put', '/api/v1/paste-limits', { limits: DEPOSIT_LIMITS, note: '' }],
		['post', '/api/v1/runs/1/unit-factors', { lineId: 1 }],
		['post', '/api/v1/runs/1/baseline', {}],
		['post', '/api/v1/pastes', {}]
	] as const;
	for (const [method, path, data] of asked) {
		const response = await api[method](path, { data });
		expect(response.status(), path).toBe(403);
		expect((await response.json()).message, path).toMatch(/^A operator may not do this|^An? operator may not/);
	}
	const calculated = await api.post('/api/v1/calc/consequence_limits', {
		data: { outcomes: [], padClass: 'chip', stopCost: 1, defectCost: 0.5 }
	});
	expect((await refusal(calculated)).message).toContain('defectCost');
});
