import { stationModule } from '../module.ts';
import { pasteInspection, pasteSums } from './messages.ts';
import { pasteCheckStory } from './story.ts';
import { pasteCheckSummary } from './summary.ts';
import { pasteCheckTaker } from './take.ts';

export const pasteCheck = stationModule({
	role: 'pasteCheck',
	messages: [pasteInspection, pasteSums],
	taker: pasteCheckTaker,
	summary: pasteCheckSummary,
	story: pasteCheckStory
});
