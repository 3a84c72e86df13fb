import type { ColumnType, Generated, GeneratedAlways } from 'kysely';
import type { BillOfMaterials, BoardPart, Finding, PanelLayout, Side } from '@keen-relay/core/artwork';
import type { LinePlan } from '@keen-relay/core/balance';
import type { Action, Approval, Role } from '@keen-relay/core/people';
import type { Issue, Verdict } from '@keen-relay/core/judgement';
import type { CaseState, CauseCode, FollowUp, LimitSet, PasteMapping, Signature, SignatureThresholds } from '@keen-relay/core/inspection';
import type { Point } from '@keen-relay/core/geometry';
import type { PackageField, PadClass } from '@keen-relay/core/parts';
import type { FluxClass, JarEventKind, JarFacts, PasteRules, PowderType } from '@keen-relay/core/paste';
import type { MisprintedPanel, PrintRecipe, ReprintDecision, TrialFactor, TrialRange, TrialSetting } from '@keen-relay/core/printing';
import type { StencilRules, TransferFit, TransferGroup, TransferModel, Wall } from '@keen-relay/core/stencil';
import type { BoardBuild, OvenRecipe, PasteWindow, ProfileLog } from '@keen-relay/core/reflow';
import type { ShiftPattern, StopReason } from '@keen-relay/core/schedule';
import type { ClassedAperture } from '@keen-relay/core/boards';
import type { StationState, Undo } from '$lib/model/types.ts';
import type { StationRole } from '$lib/stations/index.ts';
import type { Purpose } from '$lib/stations/kind.ts';

/** jsonb: read as it is, written as text. */
type Json<T> = ColumnType<T, string, string>;
type Time = ColumnType<Date, Date, Date>;

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
	purpose: Generated<Purpose>;
}

interface Station {
	id: Generated<number>;
	lineId: number;
	position: number;
	role: StationRole;
	name: string;
	/** Machine data of its kind. */
	spec: Json<unknown>;
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
	/** Counted by the database. */
	openings: GeneratedAlways<number>;
	fittedParts: GeneratedAlways<number>;
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
	partNumber: string | null;
	maker: string | null;
	alloy: string | null;
	powder: PowderType | null;
	fluxClass: FluxClass | null;
	/** How it is washed off, where it has to be. */
	wash: string | null;
	metalMassShare: Generated<number>;
	metalGPerCm3: Generated<number>;
	/** What the maker's data sheet says otherwise than common practice. */
	rules: ColumnType<Partial<PasteRules>, string | undefined, string>;
}

interface PasteJar {
	id: string;
	pasteId: number;
	lot: string;
	receivedAt: Time;
	printedExpiry: string;
	expiresAt: Time;
	grams: number;
	fridgeId: number | null;
	/** Scraped-off paste: the jar that it came from, and the clocks it brought along. */
	fromJar: string | null;
	inherits: Json<NonNullable<JarFacts['inherits']>> | null;
	enteredBy: string | null;
	enteredAt: Time;
}

interface PasteJarEvent {
	id: Generated<number>;
	jarId: string;
	kind: JarEventKind;
	at: Time;
	enteredAt: Time;
	personId: string | null;
	/** The machine that reported it, where no person did. */
	source: string | null;
	stirred: boolean | null;
	byMeans: 'hand' | 'mixer' | null;
	grams: number | null;
	stencilToolId: number | null;
	lineId: number | null;
	runId: number | null;
	airC: number | null;
	ofEvent: number | null;
	note: string | null;
}

interface Sensor {
	id: Generated<number>;
	name: string;
	kind: 'fridge' | 'room' | 'store' | 'cabinet';
	lineId: number | null;
	calibratedOn: string | null;
	everyMin: Generated<number>;
	lowC: number;
	highC: number;
	lowRhPct: number | null;
	highRhPct: number | null;
	graceMin: number;
}

interface SensorReadingRow {
	sensorId: number;
	at: Time;
	temperatureC: number;
	rhPct: number | null;
}

/** A stencil as a thing with a place and a history; what it prints stands in its design. */
interface StencilTool {
	id: Generated<number>;
	code: string;
	stencilId: number;
	place: string;
	/** Thickness as measured, µm; null until somebody did. */
	measuredUm: number | null;
	state: Generated<'usable' | 'blocked' | 'scrapped'>;
	damage: string | null;
	circuits: number;
	fiducials: Json<{ x: number; y: number }[]>;
	washedPrints: Generated<number>;
	madeBy: string;
	madeAt: Time;
}

interface StencilToolEvent {
	id: Generated<number>;
	stencilToolId: number;
	kind: 'mount' | 'unmount' | 'clean' | 'move' | 'damage' | 'repair' | 'scrap' | 'measure';
	at: Time;
	personId: string;
	lineId: number | null;
	note: string | null;
	tension: Json<{ x: number; y: number; nPerCm: number }[]> | null;
}

interface JointNeed {
	id: Generated<number>;
	boardSideId: number;
	refDes: string;
	neededMm3: number | null;
	why: string;
	setBy: string;
	setAt: Time;
}

interface OpeningRules {
	revision: number;
	rules: Json<StencilRules>;
	note: string;
	createdBy: string | null;
	createdAt: Time;
}

interface TransferFitRow {
	revision: number;
	model: Json<TransferModel>;
	fit: Json<TransferFit>;
	boardSideId: number | null;
	/** Null in fits from before walls and shapes were kept. */
	wall: Wall | null;
	pasteId: number | null;
	groups: Json<(TransferGroup & { shape: string })[]>;
	createdBy: string | null;
	createdAt: Time;
}

/** What stands in a printer's front or rear holder from then on: a blade that was fitted, or the same one with a nick that was seen. */
interface BladeFitting {
	id: Generated<number>;
	lineId: number;
	stroke: 'F' | 'R';
	code: string;
	why: string;
	nicked: boolean;
	fittedBy: string;
	fittedAt: Time;
}

interface PrintRecipeRow extends Revisioned {
	boardSideId: number;
	lineId: number;
	recipe: Json<PrintRecipe>;
	/** Support pins, in the panel's frame as the machine sees the side. */
	support: Json<{ x: number; y: number; radiusMm: number }[]>;
}

interface Misprint {
	id: Generated<number>;
	passId: number;
	at: Time;
	personId: string;
	approvedBy: string | null;
	decision: ReprintDecision['decision'];
	facts: Json<MisprintedPanel>;
	reasons: Json<ReprintDecision['reasons']>;
	steps: Json<string[]>;
}

interface MisprintStep {
	misprintId: number;
	step: number;
	doneBy: string;
	doneAt: Time;
}

interface SignatureThreshold {
	revision: number;
	thresholds: Json<SignatureThresholds>;
	note: string;
	createdBy: string | null;
	createdAt: Time;
}

interface GoldenBaseline {
	id: Generated<number>;
	boardSideId: number;
	foilUm: number;
	/** Of each pad of the panel, as a fraction. */
	efficiency: number[];
	panels: number;
	runId: number;
	createdBy: string;
	createdAt: Time;
	withdrawnAt: Time | null;
}

interface UnitFactor {
	id: Generated<number>;
	lineId: number;
	padClass: PadClass;
	factor: number;
	readings: number;
	runId: number;
	createdBy: string;
	createdAt: Time;
}

export interface TrialStep {
	/** Index of its setting. */
	setting: number;
	/** ISO time from which on panels are printed with it. */
	from: string;
}

interface PrintTrial {
	id: Generated<number>;
	runId: number;
	ranges: Json<Record<TrialFactor, TrialRange>>;
	settings: Json<TrialSetting[]>;
	panelsEach: number;
	steps: Json<TrialStep[]>;
	createdBy: string;
	createdAt: Time;
	endedAt: Time | null;
}

interface PasteLimit {
	revision: number;
	limits: Json<LimitSet>;
	note: string;
	createdBy: string | null;
	approvedBy: string | null;
	createdAt: Time;
}

interface PasteExtra {
	passId: number;
	printAttempt: number;
	inspectionAttempt: number;
	peakHeight: number[] | null;
	bridgedPads: number[] | null;
}

interface SignatureCase {
	id: Generated<number>;
	runId: number;
	code: CauseCode;
	openedAt: Time;
	/** Panels of the run that had been inspected when it was opened. */
	openedPrints: number;
	signature: Json<Signature>;
	latest: Json<Signature>;
	state: CaseState;
	reopened: Generated<number>;
	doneBy: string | null;
	doneAt: Time | null;
	donePrints: number | null;
	doneNote: string | null;
	answer: Json<FollowUp> | null;
	/** null: the values to start from named it. */
	thresholdRevision: number | null;
}

interface InspectionMapping {
	unit: string;
	mapping: Json<PasteMapping>;
	setBy: string;
	setAt: Time;
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
	wall: Wall;
	/** How much wider its openings are at the board side, µm; null where nobody measured it. */
	taperUm: number | null;
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

/** When a job is wanted on a line; the latest row counts, one without a time leaves it to the order of entry. */
interface JobStart {
	id: Generated<number>;
	jobId: number;
	lineId: number;
	startsAt: Time | null;
	setBy: string;
	setAt: Time;
}

interface Run {
	id: Generated<number>;
	jobId: number;
	boardSideId: number;
	lineId: number;
	stencilId: number;
	placementProgramId: number;
	ovenRecipeId: number;
	stencilToolId: number | null;
	printRecipeId: number | null;
	firstPrintBy: string | null;
	firstPrintAt: Time | null;
	/** Prints that a person let through beyond the first ones while the run was not released. */
	firstPrintsMore: Generated<number>;
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
	/** When it was last reported on this pass. */
	seenAt: Time;
}

interface Print {
	id: Generated<number>;
	passId: number;
	printAttempt: number;
	printedAt: Time;
	stroke: 'F' | 'R';
	printsSinceWipe: number;
	printsSinceTopup: number | null;
	minutesSincePrevious: number | null;
	/** The marks that the printer's camera read, mm. */
	alignment: Json<{ stencilMarks: Point[]; boardMarks: Point[] }> | null;
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
	bridges: Generated<number>;
	limitRevision: number | null;
	offsetXUm: number | null;
	offsetYUm: number | null;
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
	/** Serial of the panel whose print it waits for. */
	waitsFor: string | null;
	/** As it came, where no text column can hold it. */
	verbatim: Buffer | null;
}

interface MessageBoot {
	source: string;
	bootId: string;
	firstAt: Time;
	lastAt: Time;
	/** From then on it takes no more messages. */
	closedAt: Time | null;
}

interface MachineStateRow {
	stationId: number;
	at: Time;
	bootId: string;
	number: number;
	state: StationState;
	reason: string | null;
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
	pasteJar: PasteJar;
	pasteJarEvent: PasteJarEvent;
	sensor: Sensor;
	sensorReading: SensorReadingRow;
	stencilTool: StencilTool;
	stencilToolEvent: StencilToolEvent;
	jointNeed: JointNeed;
	openingRules: OpeningRules;
	transferFit: TransferFitRow;
	bladeFitting: BladeFitting;
	printRecipe: PrintRecipeRow;
	misprint: Misprint;
	misprintStep: MisprintStep;
	signatureThreshold: SignatureThreshold;
	goldenBaseline: GoldenBaseline;
	unitFactor: UnitFactor;
	printTrial: PrintTrial;
	pasteLimit: PasteLimit;
	pasteExtra: PasteExtra;
	signatureCase: SignatureCase;
	inspectionMapping: InspectionMapping;
	stencil: Stencil;
	placementProgram: PlacementProgram;
	ovenRecipe: OvenRecipeRow;
	job: Job;
	jobStart: JobStart;
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
	machineState: MachineStateRow;
	messageBoot: MessageBoot;
	stationPc: StationPc;
	actionRule: ActionRule;
	draft: Draft;
	stop: Stop;
	stopReason: StopReasonRow;
	profileLog: ProfileLogRow;
	packageFact: PackageFact;
	user: User;
}
