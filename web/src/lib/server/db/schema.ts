import type { ColumnType, Generated } from 'kysely';
import type { BillOfMaterials, BoardPart, Finding, PanelLayout, Side } from '@keen-relay/core/artwork';
import type { LinePlan } from '@keen-relay/core/balance';
import type { Action, Approval, Issue, Role, Verdict } from '@keen-relay/core/judgement';
import type { PackageField, PadClass } from '@keen-relay/core/parts';
import type { PlacerSpec } from '@keen-relay/core/placement';
import type { BoardBuild, Oven, OvenRecipe, PasteWindow, ProfileLog } from '@keen-relay/core/reflow';
import type { ShiftPattern, StopReason } from '@keen-relay/core/schedule';
import type { ClassedAperture, StationRole, StationState, Undo } from '$lib/model/types.ts';

/** jsonb: read as it is, written as text. */
type Json<T> = ColumnType<T, string, string>;
type Time = ColumnType<Date, Date, Date>;

/** What a station of each role is, as entered for the line. */
export interface StationSpec {
	placer?: PlacerSpec;
	oven?: Oven;
	/** Own seconds a panel, for stations that are not computed. */
	cycleS?: number;
	/** Gap between panels on the oven's belt, mm. */
	gapMm?: number;
}

interface Plant {
	id: number;
	name: string;
	timeZone: string;
	shifts: Json<ShiftPattern[]>;
	demo: boolean;
}

interface PlantClock {
	id: number;
	rate: number;
	realAt: Time;
	plantAt: Time;
	seenAt: Time;
}

interface Line {
	id: Generated<number>;
	name: string;
}

interface Station {
	id: Generated<number>;
	lineId: number;
	position: number;
	role: StationRole;
	name: string;
	spec: Json<StationSpec>;
	state: StationState;
	stateReason: string | null;
	stateAt: Time | null;
}

interface BoardRevision {
	id: Generated<number>;
	name: string;
	customer: string;
	revision: string;
	createdBy: string;
	createdAt: Time;
}

interface BoardSide {
	id: Generated<number>;
	boardRevisionId: number;
	side: Side;
	widthMm: number;
	heightMm: number;
	build: Json<BoardBuild>;
	apertures: Json<ClassedAperture[]>;
	parts: Json<BoardPart[]>;
	findings: Json<Finding[]>;
	issues: Json<Issue[]>;
	bom: Json<BillOfMaterials['items']>;
	panel: Json<PanelLayout>;
	panelSetBy: string | null;
}

interface BoardFile {
	id: Generated<number>;
	boardSideId: number;
	kind: 'paste' | 'positions' | 'bom' | 'outline' | 'netlist' | 'layer';
	name: string;
	sha256: string;
	content: Buffer;
}

interface Paste {
	id: Generated<number>;
	name: string;
	window: Json<PasteWindow>;
}

type Status = 'draft' | 'released' | 'retired';

interface Revisioned {
	id: Generated<number>;
	revision: number;
	status: Status;
	createdBy: string;
	createdAt: Time;
}

interface Stencil extends Revisioned {
	boardSideId: number;
	foilUm: number;
	wall: 'laser' | 'fineGrain' | 'electropolished' | 'nanoCoated';
	verdict: Json<Verdict>;
}

interface PlacementProgram extends Revisioned {
	boardSideId: number;
	lineId: number;
	plan: Json<LinePlan>;
}

interface OvenRecipeRow extends Revisioned {
	boardSideId: number;
	lineId: number;
	pasteId: number;
	recipe: Json<OvenRecipe>;
	usePct: number | null;
	verdict: Json<Verdict>;
}

interface Job {
	id: Generated<number>;
	number: string;
	boardRevisionId: number;
	panels: number;
	createdBy: string;
	createdAt: Time;
	withdrawnAt: Time | null;
}

interface Run {
	id: Generated<number>;
	jobId: number;
	boardSideId: number;
	lineId: number;
	stencilId: number;
	placementProgramId: number;
	ovenRecipeId: number;
	startedBy: string;
	startedAt: Time;
	endedBy: string | null;
	endedAt: Time | null;
}

interface Panel {
	id: Generated<number>;
	serial: string;
	jobId: number;
}

/** A panel on its way through a line for one side: a two-sided panel has two of them. */
interface PanelPass {
	id: Generated<number>;
	panelId: number;
	runId: number;
	/** Station it was last reported from; null once it left the line. */
	stationId: number | null;
	printedAt: Time;
	finishedAt: Time | null;
}

interface Print {
	id: Generated<number>;
	passId: number;
	printAttempt: number;
	printedAt: Time;
	stroke: 'F' | 'R';
	printsSinceWipe: number;
	cycleS: number;
}

interface PasteReading {
	boardSideId: number;
	block: number;
	measuredAt: Time;
	passId: number;
	printAttempt: number;
	inspectionAttempt: number;
	volume: number[];
	height: number[];
	area: number[];
	offsetX: number[];
	offsetY: number[];
}

interface PasteSummary {
	passId: number;
	printAttempt: number;
	inspectionAttempt: number;
	measuredAt: Time;
	result: 'pass' | 'review' | 'reject';
	pads: number;
	fails: number;
	warnings: number;
	meanVolumePct: number;
	classMeans: Json<Partial<Record<PadClass, number>>>;
	worst: Json<{ pad: number; code: string; volumePct: number }[]>;
}

interface PasteClassDay {
	boardSideId: number;
	day: string;
	padClass: PadClass;
	pads: number;
	fails: number;
	sumPct: number;
	sumSquaresPct: number;
}

interface PlacementReport {
	id: Generated<number>;
	passId: number;
	stationId: number;
	placedAt: Time;
	cycleS: number;
	/** Picks lost by slot. */
	lost: Json<Record<string, number>>;
}

interface FeederLoad {
	id: Generated<number>;
	stationId: number;
	runId: number;
	slot: number;
	partNumber: string;
	reel: string;
	makerLot: string;
	pieces: number;
	loadedAt: Time;
}

interface OvenPass {
	id: Generated<number>;
	passId: number;
	stationId: number;
	enteredAt: Time;
	leftAt: Time;
	zoneC: number[];
	beltCmPerMin: number;
}

interface InspectionVisit {
	id: Generated<number>;
	passId: number;
	stationId: number;
	circuit: number;
	attempt: number;
	startedAt: Time;
	endedAt: Time;
	result: 'pass' | 'fail' | 'abort';
}

interface InspectionCall {
	id: Generated<number>;
	visitId: number;
	refDes: string;
	pin: string | null;
	code: string;
	measured: string | null;
}

interface MessageLedger {
	source: string;
	bootId: string;
	number: number;
	hash: string;
	receivedAt: Time;
}

interface MessageQuarantine {
	id: Generated<number>;
	receivedAt: Time;
	line: number;
	raw: string;
	reason: string;
	conflict: boolean;
	source: string | null;
	state: Generated<'open' | 'readmitted' | 'dismissed'>;
	settledBy: string | null;
	settledAt: Time | null;
	/** What was admitted in its place. */
	corrected: string | null;
}

/** received = accepted + duplicates + quarantined, always. */
interface MessageSource {
	source: string;
	received: number;
	accepted: number;
	duplicates: number;
	quarantined: number;
	lastAt: Time;
}

interface MachineToken {
	id: Generated<number>;
	name: string;
	hash: string;
	createdBy: string | null;
	createdAt: Time;
	revokedBy: string | null;
	revokedAt: Time | null;
	usedAt: Time | null;
}

/** A shared screen beside the line; times are real time, not the plant's. */
interface StationPc {
	id: Generated<number>;
	name: string;
	lineId: number | null;
	hash: string;
	createdBy: string;
	createdAt: Time;
	revokedAt: Time | null;
	/** Whose badge was shown last. */
	personId: string | null;
	seenAt: Time | null;
}

/** Where a lead has changed what the table in core says. */
interface ActionRule {
	action: Action;
	roles: Role[];
	approval: Approval;
	setBy: string;
	setAt: Time;
}

interface Draft {
	personId: string;
	subject: string;
	content: Json<unknown>;
	/** What stood when the draft was begun, in words. */
	base: string;
	savedAt: Time;
}

interface Stop {
	id: Generated<number>;
	stationId: number;
	runId: number | null;
	fromAt: Time;
	toAt: Time | null;
	machineReason: string | null;
}

interface StopReasonRow {
	id: Generated<number>;
	stopId: number;
	reason: StopReason;
	personId: string;
	at: Time;
	withdrawn: Generated<boolean>;
}

interface ProfileLogRow {
	id: Generated<number>;
	boardSideId: number;
	lineId: number;
	name: string;
	/** What the oven was set to. */
	recipe: Json<OvenRecipe>;
	log: Json<ProfileLog>;
	content: Buffer;
	createdBy: string;
	createdAt: Time;
}

interface PackageFact {
	id: Generated<number>;
	packageName: string;
	field: PackageField;
	value: number | null;
	source: string;
	setBy: string;
	setAt: Time;
}

interface HandOver {
	id: Generated<number>;
	lineId: number;
	shiftDate: string;
	shiftName: string;
	lines: Json<{ heading: string; lines: string[] }[]>;
	note: string;
	outgoingId: string | null;
	outgoingAt: Time | null;
	incomingId: string | null;
	incomingAt: Time | null;
}

interface ActionLog {
	id: Generated<number>;
	at: Time;
	personId: string;
	action: Action;
	subject: string;
	approvedBy: string | null;
	stationPc: string | null;
	/** Set where it concerns one line only. */
	lineId: number | null;
	/** What it takes to reverse it. */
	undo: Json<Undo> | null;
	reverses: number | null;
}

interface User {
	id: string;
	name: string;
	username: string;
	role: Role;
}

export interface Database {
	plant: Plant;
	plantClock: PlantClock;
	line: Line;
	station: Station;
	boardRevision: BoardRevision;
	boardSide: BoardSide;
	boardFile: BoardFile;
	paste: Paste;
	stencil: Stencil;
	placementProgram: PlacementProgram;
	ovenRecipe: OvenRecipeRow;
	job: Job;
	run: Run;
	panel: Panel;
	panelPass: PanelPass;
	print: Print;
	pasteReading: PasteReading;
	pasteSummary: PasteSummary;
	pasteClassDay: PasteClassDay;
	placementReport: PlacementReport;
	feederLoad: FeederLoad;
	ovenPass: OvenPass;
	inspectionVisit: InspectionVisit;
	inspectionCall: InspectionCall;
	messageLedger: MessageLedger;
	messageQuarantine: MessageQuarantine;
	handOver: HandOver;
	actionLog: ActionLog;
	messageSource: MessageSource;
	machineToken: MachineToken;
	stationPc: StationPc;
	actionRule: ActionRule;
	draft: Draft;
	stop: Stop;
	stopReason: StopReasonRow;
	profileLog: ProfileLogRow;
	packageFact: PackageFact;
	user: User;
}
