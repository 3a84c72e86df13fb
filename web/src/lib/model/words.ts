import type { Action } from '@keen-relay/core/judgement';

/** Actions as the log, the hand-over and the table of rights say them. */
export const ACTION_WORDS: Record<Action, string> = {
	'board.create': 'new board',
	'panel.set': 'panel set',
	'package.set': 'package entered',
	'paste.define': 'paste defined',
	'jar.receive': 'jar received',
	'jar.scan': 'jar scanned',
	'jar.review': 'jar reviewed',
	'sensor.set': 'new sensor',
	'openingRules.set': 'rules for openings set',
	'transfer.fit': 'transfer curve fitted',
	'stencilTool.keep': 'stencil kept',
	'stencilTool.mount': 'stencil mounted',
	'printRecipe.release': 'print recipe released',
	'firstPrint.release': 'first prints released',
	'misprint.record': 'misprint recorded',
	'misprint.approve': 'wash or scrap approved',
	'signature.act': 'cause acted on',
	'limits.set': 'paste limits set',
	'limits.widen': 'paste limits widened',
	'results.import': 'paste results imported',
	'stencil.release': 'stencil released',
	'program.release': 'program released',
	'recipe.release': 'oven recipe released',
	'profile.log': 'profile measured',
	'job.create': 'new job',
	'run.start': 'run started',
	'run.end': 'run ended',
	'stop.explain': 'stop explained',
	'handOver.write': 'hand-over written',
	'handOver.sign': 'hand-over signed',
	'message.settle': 'message settled',
	'token.create': 'machine token made',
	'token.revoke': 'machine token revoked',
	'stationPc.create': 'station PC signed in',
	'stationPc.revoke': 'station PC signed out',
	'person.create': 'new person',
	'rights.set': 'rights changed',
	'line.create': 'new line',
	'clock.set': 'clock set'
};

/** A badge names its person until the screen was idle this long, real time. */
export const BADGE_IDLE_S = 90;
