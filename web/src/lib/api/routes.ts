import type { Action } from '@keen-relay/core/judgement';
import { DEPOSIT_LIMITS, SIGNATURE_THRESHOLDS } from '@keen-relay/core/inspection';
import { startingPrintRecipe } from '@keen-relay/core/printing';
import { STENCIL_RULES } from '@keen-relay/core/stencil';
import type { z } from 'zod';
import { bodies } from './bodies.ts';

/** Who a route answers: anybody signed in (a person, a station PC or a machine), a person, a station PC, a machine only, or who may do an action. */
export type Who = 'open' | 'signedIn' | 'person' | 'stationPc' | 'machine' | 'badgeAndPin' | 'calculation' | Action;

export interface RouteDoc {
	method: 'get' | 'post' | 'put' | 'delete';
	path: string;
	who: Who;
	summary: string;
	query?: Record<string, string>;
	body?: z.ZodType;
	/** Where the body is not JSON. */
	contentType?: 'application/x-ndjson' | 'multipart/form-data';
	example?: unknown;
	/** What it answers where that is not JSON. */
	answers?: string;
}

const LAYOUT = {
	rows: 2,
	columns: 2,
	pitchXMm: 54,
	pitchYMm: 40,
	railMm: 6,
	fiducials: [
		{ x: 3, y: 3 },
		{ x: 115, y: 3 }
	]
};
const MESSAGE =
	'{"source":"Line 1/Print","bootId":"6f3a1c0e-7b0f-4c57-9a57-0c9d3e1f2a44","number":0,"at":"2026-11-25T09:00:00Z","type":"state","state":"running"}';

/** Every route of the public API but the calculations: a test holds this list against the routes that there are. */
export const ROUTES: readonly RouteDoc[] = [
	{ method: 'get', path: '/api/v1/openapi.json', who: 'signedIn', summary: 'This description.' },
	{ method: 'get', path: '/api/v1/calc', who: 'signedIn', summary: 'Names of all calculations with what each is for.' },
	{ method: 'get', path: '/api/v1/clock', who: 'signedIn', summary: 'Plant time, its rate and time zone.' },
	{
		method: 'put',
		path: '/api/v1/clock',
		who: 'clock.set',
		summary: 'Sets the plant clock of a demonstration plant.',
		body: bodies.clock,
		example: { now: '2026-11-25T09:00:00Z', rate: 5 }
	},
	{
		method: 'get',
		path: '/api/v1/stream',
		who: 'signedIn',
		summary: 'Topics as they change, a server-sent stream; resumes from Last-Event-ID.',
		query: { after: 'id of the last event, instead of the header' },
		answers: 'text/event-stream'
	},
	{
		method: 'get',
		path: '/api/v1/find',
		who: 'signedIn',
		summary: 'What a scanned code is, and what may be done with a jar or stencil now.',
		query: { code: 'the code', line: 'where it was scanned' }
	},
	{ method: 'get', path: '/api/v1/lines', who: 'signedIn', summary: 'Lines of the plant.' },
	{
		method: 'post',
		path: '/api/v1/lines',
		who: 'line.create',
		summary: 'Enters a line with its stations in the order boards travel.',
		body: bodies.line,
		example: { name: 'Bench', stations: [{ role: 'print', name: 'Print', spec: { cycleS: 20 } }] }
	},
	{
		method: 'get',
		path: '/api/v1/lines/{id}/work',
		who: 'machine',
		summary: 'What the machines of a line are to build now.',
		query: { known: 'run that is known already' }
	},
	{
		method: 'get',
		path: '/api/v1/lines/{id}/stops',
		who: 'signedIn',
		summary: 'Stops of a line between two times.',
		query: { from: 'ISO time', to: 'ISO time' }
	},
	{
		method: 'get',
		path: '/api/v1/lines/{id}/blades',
		who: 'signedIn',
		summary: 'The blades in a line’s printer, with the strokes that each has made and how it stands.'
	},
	{
		method: 'put',
		path: '/api/v1/lines/{id}/blades',
		who: 'blade.fit',
		summary: 'Says which blade stands in front or rear now, or that a nick was seen; naming the other holder’s blade swaps the two.',
		body: bodies.blade,
		example: { stroke: 'F', code: 'B-07', why: 'the old one had a nick' }
	},
	{
		method: 'post',
		path: '/api/v1/messages',
		who: 'machine',
		summary: 'Machine messages, one JSON object a line, up to 60 MB; each counts once. 503 with Retry-After while the database is away.',
		contentType: 'application/x-ndjson',
		example: MESSAGE
	},
	{
		method: 'post',
		path: '/api/v1/reports',
		who: 'message.type',
		summary: 'A message typed by a person in a machine’s stead: the same gate, with who typed it.',
		body: bodies.report,
		example: {
			stationId: 2,
			type: 'state',
			formId: '6f3a1c0e-7b0f-4c57-9a57-0c9d3e1f2a45',
			fields: { state: 'stopped', reason: 'panel jam' }
		}
	},
	{
		method: 'post',
		path: '/api/v1/quarantine/{id}',
		who: 'message.settle',
		summary: 'Admits a message from quarantine, corrected.',
		body: bodies.readmit,
		example: { text: MESSAGE }
	},
	{ method: 'delete', path: '/api/v1/quarantine/{id}', who: 'message.settle', summary: 'Leaves a message out; it stays stored.' },
	{
		method: 'post',
		path: '/api/v1/tokens',
		who: 'token.create',
		summary: 'Makes a machine token; shown this once.',
		body: bodies.token,
		example: { name: 'Oven logger' }
	},
	{ method: 'delete', path: '/api/v1/tokens/{id}', who: 'token.revoke', summary: 'Revokes a machine token.' },
	{
		method: 'get',
		path: '/api/v1/jars',
		who: 'signedIn',
		summary: 'Jars that are not gone, each with state, governing clock and next needed action.'
	},
	{
		method: 'post',
		path: '/api/v1/jars',
		who: 'jar.receive',
		summary: 'Receives a sealed jar.',
		body: bodies.jar,
		example: { id: 'J-0031', pasteId: 1, lot: 'L26-114', expiry: '2027-02', grams: 500 }
	},
	{
		method: 'post',
		path: '/api/v1/jars/{id}/events',
		who: 'jar.scan',
		summary:
			'Moves a jar through its life; a request is refused with why and what would make it right, a fact is recorded. A review asks for jar.review.',
		body: bodies.jarEvent,
		example: { kind: 'open', stirred: true }
	},
	{
		method: 'post',
		path: '/api/v1/pastes',
		who: 'paste.define',
		summary: 'Enters a paste, or changes what is known of it.',
		body: bodies.paste,
		example: {
			name: 'SAC paste, water-soluble',
			partNumber: 'P-417',
			alloy: 'SAC305',
			powder: 'T4',
			fluxClass: 'waterSoluble',
			wash: 'warm water, 60 °C',
			rules: { stencilLifeH: 5 }
		}
	},
	{ method: 'get', path: '/api/v1/sensors', who: 'signedIn', summary: 'Sensors of the plant.' },
	{
		method: 'post',
		path: '/api/v1/sensors',
		who: 'sensor.set',
		summary: 'Adds a temperature and humidity sensor; its readings come as messages from "Sensors/" and its name.',
		body: bodies.sensor,
		example: { name: 'Fridge 2', kind: 'fridge', lowC: 2, highC: 10 }
	},
	{
		method: 'put',
		path: '/api/v1/opening-rules',
		who: 'openingRules.set',
		summary: 'Keeps a new revision of what is done to the openings of each class.',
		body: bodies.openingRules,
		example: { rules: STENCIL_RULES, note: 'chips as drawn' }
	},
	{
		method: 'put',
		path: '/api/v1/sides/{id}/needs',
		who: 'openingRules.set',
		summary: 'Says what paste each joint of a part needs, mm³ (coplanarity, pin in paste); null takes it back.',
		body: bodies.jointNeed,
		example: { refDes: 'J1', neededMm3: 0.25, why: 'coplanarity of the connector' }
	},
	{
		method: 'post',
		path: '/api/v1/transfer-fits',
		who: 'transfer.fit',
		summary: 'Fits the plant’s transfer curve to a run’s measured volumes and keeps it.',
		body: bodies.transferFit,
		example: { runId: 12 }
	},
	{
		method: 'get',
		path: '/api/v1/sides/{id}/openings',
		who: 'signedIn',
		summary: 'Openings of a side under the plant’s rules, for the stencil maker: RS-274X, or a table.',
		query: { as: 'csv' },
		answers: 'application/octet-stream'
	},
	{
		method: 'post',
		path: '/api/v1/stencil-tools',
		who: 'stencilTool.keep',
		summary: 'Keeps a stencil in the library.',
		body: bodies.stencilTool,
		example: { code: 'S-014', stencilId: 3, place: 'rack B2', measuredUm: 103 }
	},
	{
		method: 'post',
		path: '/api/v1/stencil-tools/{id}/events',
		who: 'stencilTool.mount',
		summary:
			'Mounts, takes off, cleans, moves, damages, repairs or scraps a stencil; mounting a wrong one is refused. All but mounting ask for stencilTool.keep.',
		body: bodies.stencilToolEvent,
		example: { kind: 'mount', lineId: 1 }
	},
	{
		method: 'post',
		path: '/api/v1/stencil-tools/{id}/tension',
		who: 'stencilTool.keep',
		summary: 'Tension readings of a foil, with their verdict.',
		body: bodies.tension,
		example: { readings: [{ x: 30, y: 30, nPerCm: 38 }] }
	},
	{
		method: 'post',
		path: '/api/v1/print-recipes',
		who: 'printRecipe.release',
		summary: 'Releases a print recipe with its support pins.',
		body: bodies.printRecipe,
		example: { sideId: 1, lineId: 1, recipe: startingPrintRecipe(118, null), support: [{ x: 59, y: 45, radiusMm: 2 }] }
	},
	{
		method: 'post',
		path: '/api/v1/runs/{id}/first-print',
		who: 'firstPrint.release',
		summary: 'Releases a run after its first prints: until then the printer waits.'
	},
	{
		method: 'post',
		path: '/api/v1/runs/{id}/first-print/more',
		who: 'firstPrint.release',
		summary: 'Lets the printer print one panel more before the release.'
	},
	{
		method: 'post',
		path: '/api/v1/panels/{serial}/misprint',
		who: 'misprint.record',
		summary:
			'Takes a misprinted panel off: wash and print again, or what its history asks for. Anything but a plain wash asks for misprint.approve.',
		body: bodies.misprint,
		example: { finish: 'other' }
	},
	{
		method: 'post',
		path: '/api/v1/signatures/{id}',
		who: 'signature.act',
		summary: 'Marks the action of a cause done, or lays the cause aside with a note.',
		body: bodies.signatureAction,
		example: { action: 'done', note: 'blades swapped' }
	},
	{
		method: 'put',
		path: '/api/v1/signature-thresholds',
		who: 'signature.tune',
		summary: 'Keeps a new revision of the thresholds that causes are named by.',
		body: bodies.signatureThresholds,
		example: { thresholds: SIGNATURE_THRESHOLDS, note: 'as the model starts' }
	},
	{
		method: 'post',
		path: '/api/v1/runs/{id}/baseline',
		who: 'signature.tune',
		summary: 'Approves a run’s pads as the baseline of its side: 12 panels that passed, or more.'
	},
	{ method: 'delete', path: '/api/v1/sides/{id}/baseline', who: 'signature.tune', summary: 'Withdraws the baseline of a side.' },
	{
		method: 'post',
		path: '/api/v1/runs/{id}/unit-factors',
		who: 'unit.learn',
		summary: 'Learns how the inspection unit of a line reads volume against area × height, on the good panels of a run.',
		body: bodies.unitFactors,
		example: { lineId: 1 }
	},
	{
		method: 'post',
		path: '/api/v1/runs/{id}/trials',
		who: 'trial.run',
		summary: 'Begins a trial of force, speed and separation: eight corners and the middle three times, in a drawn order.',
		body: bodies.trial,
		example: {
			ranges: {
				force: { low: 0.18, high: 0.26, unit: 'kg/cm' },
				speed: { low: 30, high: 60, unit: 'mm/s' },
				separation: { low: 1, high: 5, unit: 'mm/s' }
			},
			panelsEach: 4
		}
	},
	{ method: 'post', path: '/api/v1/trials/{id}/settings', who: 'trial.run', summary: 'The next setting of a trial is set on the printer.' },
	{ method: 'post', path: '/api/v1/trials/{id}/end', who: 'trial.run', summary: 'Ends a trial.' },
	{
		method: 'post',
		path: '/api/v1/misprints/{id}/steps',
		who: 'misprint.record',
		summary: 'Notes that a step of washing a misprint was done; steps are done in their order.',
		body: bodies.washStep,
		example: { step: 0 }
	},
	{
		method: 'put',
		path: '/api/v1/paste-limits',
		who: 'limits.set',
		summary: 'Keeps a new revision of the paste limits; widening asks for limits.widen, a second person.',
		body: bodies.pasteLimits,
		example: { limits: DEPOSIT_LIMITS, note: 'as common practice' }
	},
	{
		method: 'post',
		path: '/api/v1/paste-results',
		who: 'results.import',
		summary: 'Paste inspection results from a table, with the unit’s columns as they were confirmed once.',
		body: bodies.pasteImport,
		example: { unit: 'Line 1', runId: 12, text: 'panel_no,pad_id,volume_pct,height_um,area_pct,offset_x_um,offset_y_um\n', check: true }
	},
	{
		method: 'post',
		path: '/api/v1/people',
		who: 'person.create',
		summary: 'Enters a person with a badge.',
		body: bodies.person,
		example: { name: 'G. Heron', badge: 'gwen', pin: '2007', role: 'operator' }
	},
	{
		method: 'put',
		path: '/api/v1/rights/{action}',
		who: 'rights.set',
		summary: 'Who may do something, and whether it asks for an approval.',
		body: bodies.rule,
		example: { roles: ['engineer', 'lead'], approval: 'second' }
	},
	{
		method: 'post',
		path: '/api/v1/station-pcs',
		who: 'stationPc.create',
		summary: 'Signs the browser that asks in as a station PC.',
		body: bodies.stationPc,
		example: { name: 'Line 1 oven', lineId: 1 }
	},
	{ method: 'delete', path: '/api/v1/station-pcs/{id}', who: 'stationPc.revoke', summary: 'Signs a station PC out.' },
	{
		method: 'post',
		path: '/api/v1/badge',
		who: 'stationPc',
		summary: 'A badge names the person for what is done next.',
		body: bodies.badge,
		example: { badge: 'anwen' }
	},
	{ method: 'delete', path: '/api/v1/badge', who: 'stationPc', summary: 'Clears the badge.' },
	{ method: 'post', path: '/api/v1/badge/seen', who: 'stationPc', summary: 'Somebody is still at the screen.' },
	{ method: 'get', path: '/api/v1/drafts/{subject}', who: 'person', summary: 'What this person typed there and did not save.' },
	{
		method: 'put',
		path: '/api/v1/drafts/{subject}',
		who: 'person',
		summary: 'Keeps a draft.',
		body: bodies.draft,
		example: { content: { beltCmPerMin: 64 }, base: 'recipe 1 is released' }
	},
	{ method: 'delete', path: '/api/v1/drafts/{subject}', who: 'person', summary: 'Throws a draft away.' },
	{
		method: 'post',
		path: '/api/v1/actions/{id}/undo',
		who: 'person',
		summary: 'Reverses an action by a record of its own; whoever may do it may undo it.'
	},
	{
		method: 'post',
		path: '/api/v1/boards',
		who: 'board.create',
		summary: 'Reads the files of one side of a board and keeps them; ?check keeps nothing.',
		query: { check: 'only read' },
		contentType: 'multipart/form-data'
	},
	{ method: 'get', path: '/api/v1/sides/{id}/geometry', who: 'signedIn', summary: 'Openings and parts of a side, mm.' },
	{ method: 'get', path: '/api/v1/sides/{id}/layers', who: 'signedIn', summary: 'Other layers of a side as outlines, mm.' },
	{
		method: 'put',
		path: '/api/v1/sides/{id}/panel',
		who: 'panel.set',
		summary: 'Sets the panel of a board, both sides.',
		body: bodies.panel,
		example: LAYOUT
	},
	{
		method: 'get',
		path: '/api/v1/sides/{id}/plan',
		who: 'signedIn',
		summary: 'Deals the parts of a side to the placers of a line.',
		query: { line: 'line number' }
	},
	{
		method: 'get',
		path: '/api/v1/sides/{id}/pads/{pad}',
		who: 'signedIn',
		summary: 'One pad’s volumes through a run.',
		query: { run: 'run number' }
	},
	{
		method: 'post',
		path: '/api/v1/sides/{id}/profiles',
		who: 'profile.log',
		summary: 'Takes a thermocouple log (CSV) of this side on a line.',
		contentType: 'multipart/form-data'
	},
	{
		method: 'put',
		path: '/api/v1/packages',
		who: 'package.set',
		summary: 'Enters what is known of a package, with its source.',
		body: bodies.package,
		example: { name: 'CONN_24X8X9', field: 'massG', value: 2.4, source: 'weighed' }
	},
	{
		method: 'post',
		path: '/api/v1/stencils',
		who: 'stencil.release',
		summary: 'Releases a stencil at one foil.',
		body: bodies.stencil,
		example: { sideId: 1, foilUm: 100, wall: 'laser', taperUm: 6 }
	},
	{
		method: 'post',
		path: '/api/v1/programs',
		who: 'program.release',
		summary: 'Releases the placement program of a side on a line.',
		body: bodies.program,
		example: { sideId: 1, lineId: 1 }
	},
	{
		method: 'post',
		path: '/api/v1/recipes',
		who: 'recipe.release',
		summary: 'Releases an oven recipe; one that breaks the paste’s window is refused.',
		body: bodies.recipe,
		example: { sideId: 1, lineId: 1, pasteId: 1, setC: [105, 140, 160, 185, 215, 245, 245], beltCmPerMin: 44 }
	},
	{
		method: 'post',
		path: '/api/v1/jobs',
		who: 'job.create',
		summary: 'Enters a job.',
		body: bodies.job,
		example: { number: 'J-2500', boardRevisionId: 1, panels: 120 }
	},
	{
		method: 'put',
		path: '/api/v1/jobs/{id}/start',
		who: 'job.plan',
		summary: 'Says when a job is wanted on a line: the fridge plan goes by it. Null leaves it to the order of entry.',
		body: bodies.jobStart,
		example: { lineId: 1, startsAt: '2026-11-26T14:00:00Z' }
	},
	{
		method: 'post',
		path: '/api/v1/runs',
		who: 'run.start',
		summary: 'Starts one side of a job on a line.',
		body: bodies.run,
		example: { jobId: 1, sideId: 1, lineId: 1 }
	},
	{ method: 'post', path: '/api/v1/runs/{id}/end', who: 'run.end', summary: 'Ends a run.' },
	{
		method: 'post',
		path: '/api/v1/stops/{id}/reason',
		who: 'stop.explain',
		summary: 'Says why a machine stood.',
		body: bodies.stopReason,
		example: { reason: 'pick' }
	},
	{
		method: 'put',
		path: '/api/v1/hand-overs',
		who: 'handOver.write',
		summary: 'Writes the note of a shift.',
		body: bodies.handOver,
		example: { lineId: 1, date: '2026-11-25', shift: 'Early', note: 'Watch U3.' }
	},
	{
		method: 'post',
		path: '/api/v1/hand-overs/sign',
		who: 'badgeAndPin',
		summary: 'Signs a hand-over: the badge and PIN in the body decide who signs.',
		body: bodies.signature,
		example: { lineId: 1, date: '2026-11-25', shift: 'Early', badge: 'anwen', pin: '2001' }
	},
	{
		method: 'get',
		path: '/api/v1/runs/{id}/tables',
		who: 'signedIn',
		summary: 'A run’s latest 60 panels as a CSV table, for a study elsewhere or on paste_study.',
		query: { of: 'pads, panels or readings' }
	},
	{
		method: 'get',
		path: '/api/v1/runs/{id}/pads',
		who: 'signedIn',
		summary: 'Pads of a run’s latest 40 panels by stroke: each pad’s middle over the panels of one blade; %, µm.',
		query: { stroke: 'F or R' }
	},
	{
		method: 'get',
		path: '/api/v1/panels/{serial}/paste',
		who: 'signedIn',
		summary: 'Pad readings of a panel’s latest paste inspection: %, µm.',
		query: { pass: 'pass number' }
	}
];
